-- Parts stay themselves inside a unit: fitted from one event, taken out by another.

-- The end of a fitting is a row of its own, for nothing in the ledger is ever changed.
ALTER TABLE fitting DROP COLUMN to_event;
ALTER TABLE fitting ALTER COLUMN from_event SET NOT NULL;

-- A part taken out of a unit again, whether it was fitted or built in.
CREATE TABLE removal (
  id            bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  component_id  bigint NOT NULL REFERENCES mark,
  host_id       bigint NOT NULL REFERENCES mark,
  position      text CHECK (length(position) BETWEEN 1 AND 60),
  quantity      quantity NOT NULL CHECK (quantity > 0),
  event_id      bigint NOT NULL REFERENCES event,
  CONSTRAINT not_out_of_itself CHECK (component_id <> host_id)
);
CREATE INDEX removal_component ON removal (component_id, host_id);
CREATE INDEX removal_host ON removal (host_id, component_id);
CREATE INDEX removal_event ON removal (event_id);

CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON fitting
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON removal
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER comes_with_its_event AFTER INSERT ON removal
  REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION comes_with_its_event();
GRANT SELECT, INSERT ON fitting, removal TO earmark_app;
