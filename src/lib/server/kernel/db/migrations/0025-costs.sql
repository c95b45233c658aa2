-- What marks cost: told where goods come in, carried by what becomes of them.
ALTER TABLE event DROP CONSTRAINT event_kind_check;
ALTER TABLE event ADD CONSTRAINT event_kind_check CHECK (kind IN (
  'receive', 'put away', 'move', 'transfer', 'build', 'repack', 'teardown', 'identify', 'pack',
  'unpack', 'ship', 'count', 'gain', 'loss', 'scrap', 'hold', 'release', 'reject', 'return', 'fit',
  'remove', 'swap', 'station', 'amendment', 'reversal', 'opening', 'revaluation'
));
ALTER TABLE event ADD CONSTRAINT a_revaluation_has_a_reason
  CHECK (kind <> 'revaluation' OR reason IS NOT NULL);

-- ISO 4217. Null where costs are not kept.
ALTER TABLE company ADD COLUMN currency text CHECK (currency ~ '^[A-Z]{3}$');
-- The price of one of the product's own unit.
ALTER TABLE order_line ADD COLUMN unit_price numeric(24, 12) CHECK (unit_price >= 0);
-- What making one costs beside its parts.
ALTER TABLE bill ADD COLUMN added_cost numeric(18, 6) CHECK (added_cost >= 0);

-- What a revaluation says: what one cost that came in by an event, or is worth from now on.
CREATE TABLE cost_told (
  event_id   bigint NOT NULL REFERENCES event,
  mark_id    bigint NOT NULL REFERENCES mark,
  of_event   bigint REFERENCES event,
  unit_cost  numeric(24, 12) NOT NULL CHECK (unit_cost >= 0),
  PRIMARY KEY (event_id, mark_id)
);
CREATE INDEX cost_told_mark ON cost_told (mark_id, event_id);
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON cost_told
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER comes_with_its_event AFTER INSERT ON cost_told
  REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION comes_with_its_event();

-- The cost of one of a mark from an event on, as told by an event: the same one, or a later one by
-- which it is corrected. Null where it is not known. Carried from the ledger's rows, event by
-- event, and nothing of it is ever changed: a correction is a row of its own.
CREATE TABLE mark_cost (
  mark_id    bigint NOT NULL REFERENCES mark,
  event_id   bigint NOT NULL REFERENCES event,
  told_by    bigint NOT NULL REFERENCES event,
  unit_cost  numeric(24, 12) CHECK (unit_cost >= 0),
  PRIMARY KEY (mark_id, event_id, told_by) INCLUDE (unit_cost),
  CONSTRAINT told_by_itself_or_later CHECK (told_by >= event_id)
);
CREATE INDEX mark_cost_told_by ON mark_cost (told_by);

-- Value that changed while the goods stayed: what a correction did to what lies here and to what
-- had left, and what a unit taken apart was worth beyond its parts.
CREATE TABLE cost_entry (
  event_id     bigint NOT NULL REFERENCES event,
  mark_id      bigint NOT NULL REFERENCES mark,
  cost_before  numeric(24, 12),
  cost_after   numeric(24, 12),
  lying        quantity NOT NULL,
  -- Null where one of the two costs is not known.
  here         numeric,
  gone         numeric,
  PRIMARY KEY (event_id, mark_id)
);

-- How far the costs are carried: what a snapshot of the database saw. One row.
CREATE TABLE cost_carried (
  one_row   boolean PRIMARY KEY DEFAULT true CHECK (one_row),
  snapshot  text NOT NULL
);
INSERT INTO cost_carried (snapshot) VALUES ('3:3:');

CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON mark_cost
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON cost_entry
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
GRANT SELECT, INSERT ON cost_told, mark_cost, cost_entry TO earmark_app;
GRANT SELECT, UPDATE ON cost_carried TO earmark_app;
