-- The ledger. The laws of docs/domain.md live here, in constraints and triggers.

CREATE SEQUENCE event_id_seq;
CREATE SEQUENCE mark_id_seq;
CREATE SEQUENCE transformation_id_seq;

CREATE TABLE event (
  id           bigint PRIMARY KEY DEFAULT nextval('event_id_seq'),
  kind         text NOT NULL CHECK (kind IN ('receive', 'put away', 'move', 'transfer', 'build', 'repack', 'teardown', 'identify',
                 'pack', 'unpack', 'ship', 'count', 'gain', 'loss', 'scrap', 'hold', 'release', 'reject', 'return', 'fit', 'remove',
                 'station', 'amendment', 'reversal')),
  document     code_text NOT NULL,
  -- The other side's paper: a delivery note, a carrier's number.
  reference    text CHECK (length(reference) BETWEEN 1 AND 100),
  order_id     bigint REFERENCES trade_order,
  partner_id   bigint REFERENCES partner,
  happened_at  timestamptz NOT NULL,
  booked_at    timestamptz NOT NULL DEFAULT clock_timestamp(),
  booked_by    bigint NOT NULL REFERENCES person,            -- law 9
  reason       text CHECK (length(btrim(reason)) BETWEEN 1 AND 2000),
  reverses_id  bigint UNIQUE REFERENCES event,
  CONSTRAINT not_in_the_future CHECK (happened_at <= booked_at + interval '5 minutes'),
  CONSTRAINT reversal_names_what CHECK ((kind = 'reversal') = (reverses_id IS NOT NULL)),
  CONSTRAINT reason_where_due CHECK (reason IS NOT NULL OR kind NOT IN ('hold', 'release', 'reject', 'gain', 'loss', 'scrap', 'amendment', 'reversal'))
);
CREATE INDEX event_document ON event (upper(document));           -- the scan field, a document's events
CREATE INDEX event_order ON event (order_id);                     -- progress of an order
CREATE INDEX event_partner ON event (partner_id);
CREATE INDEX event_happened ON event (happened_at DESC, id DESC);  -- what happened lately

CREATE TABLE mark (
  id               bigint PRIMARY KEY DEFAULT nextval('mark_id_seq'),
  product_id       bigint NOT NULL REFERENCES product,
  kind             text NOT NULL CHECK (kind IN ('lot', 'serial', 'bulk')),
  number           code_text,
  number_key       text GENERATED ALWAYS AS (upper((number::text) COLLATE "C")) STORED,
  lot_id           bigint,
  lot_kind         text GENERATED ALWAYS AS (CASE WHEN lot_id IS NOT NULL THEN 'lot' END) STORED,
  supplier_number  text CHECK (length(supplier_number) BETWEEN 1 AND 100),
  made_on          date,
  expires_on       date,
  retest_on        date,
  warranty_start   date,
  warranty_months  integer CHECK (warranty_months > 0),
  facts            jsonb NOT NULL DEFAULT '{}',
  state            text NOT NULL DEFAULT 'usable' CHECK (state IN ('usable', 'held', 'rejected')),
  birth_event      bigint NOT NULL REFERENCES event,
  CONSTRAINT bulk_has_no_number CHECK ((kind = 'bulk') = (number IS NULL)),
  CONSTRAINT only_a_serial_is_within_a_lot CHECK (lot_id IS NULL OR kind = 'serial'),
  CONSTRAINT mark_kind_key UNIQUE (id, kind),
  CONSTRAINT mark_identity UNIQUE (product_id, kind, number_key),
  CONSTRAINT mark_lot_key UNIQUE (id, kind, product_id),
  -- The lot of a serial is a lot, and one of the same product.
  CONSTRAINT lot_of_same_product FOREIGN KEY (lot_id, lot_kind, product_id) REFERENCES mark (id, kind, product_id)
);
CREATE UNIQUE INDEX mark_one_bulk ON mark (product_id) WHERE kind = 'bulk';
CREATE INDEX mark_number ON mark (number_key text_pattern_ops);                       -- the scan field
CREATE INDEX mark_supplier_number ON mark (upper(supplier_number)) WHERE supplier_number IS NOT NULL;
CREATE INDEX mark_members ON mark (lot_id, id) WHERE lot_id IS NOT NULL;              -- trace: lot → serials
CREATE INDEX mark_birth ON mark (birth_event);

CREATE TABLE movement (
  id         bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  event_id   bigint NOT NULL REFERENCES event,
  mark_id    bigint NOT NULL REFERENCES mark,
  place_id   bigint NOT NULL REFERENCES place,
  quantity   quantity NOT NULL CHECK (quantity <> 0),
  unit_cost  numeric(18, 6) CHECK (unit_cost >= 0)
);
CREATE INDEX movement_mark ON movement (mark_id, event_id);     -- time line of a mark
CREATE INDEX movement_event ON movement (event_id);             -- lines of a document

CREATE TABLE transformation (
  id        bigint PRIMARY KEY DEFAULT nextval('transformation_id_seq'),
  event_id  bigint NOT NULL REFERENCES event
);
CREATE INDEX transformation_event ON transformation (event_id);

CREATE TABLE transformation_input (
  transformation_id  bigint NOT NULL REFERENCES transformation,
  mark_id            bigint NOT NULL REFERENCES mark,
  quantity           quantity NOT NULL CHECK (quantity > 0),
  PRIMARY KEY (transformation_id, mark_id) INCLUDE (quantity)
);
CREATE INDEX transformation_input_mark ON transformation_input (mark_id, transformation_id) INCLUDE (quantity);   -- downstream

CREATE TABLE transformation_output (
  transformation_id  bigint NOT NULL REFERENCES transformation,
  mark_id            bigint NOT NULL REFERENCES mark,
  quantity           quantity NOT NULL CHECK (quantity > 0),
  -- What part of the inputs this output takes, where units differ and the build states it.
  share              numeric(18, 12) CHECK (share > 0 AND share <= 1),
  PRIMARY KEY (transformation_id, mark_id) INCLUDE (quantity)
);
CREATE INDEX transformation_output_mark ON transformation_output (mark_id, transformation_id) INCLUDE (quantity); -- upstream

CREATE TABLE fitting (
  id            bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  component_id  bigint NOT NULL REFERENCES mark,
  host_id       bigint NOT NULL REFERENCES mark,
  position      text CHECK (length(position) BETWEEN 1 AND 60),
  quantity      quantity NOT NULL CHECK (quantity > 0),
  from_event    bigint NOT NULL REFERENCES event,
  to_event      bigint REFERENCES event,
  CONSTRAINT not_in_itself CHECK (component_id <> host_id)
);
CREATE INDEX fitting_component ON fitting (component_id, host_id);   -- downstream
CREATE INDEX fitting_host ON fitting (host_id, component_id);        -- upstream, as-maintained

-- Every change of a mark's state, dates or facts, with the event that made it. The mark itself is only ever
-- changed through a row here (see apply_mark_change), so its history is complete.
CREATE TABLE mark_change (
  id         bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  event_id   bigint NOT NULL REFERENCES event,
  mark_id    bigint NOT NULL REFERENCES mark,
  field      text NOT NULL CHECK (field IN ('state', 'expires_on', 'made_on', 'retest_on', 'supplier_number', 'warranty_start')),
  old_value  text,
  new_value  text,
  CONSTRAINT a_change_changes CHECK (old_value IS DISTINCT FROM new_value)
);
CREATE INDEX mark_change_mark ON mark_change (mark_id, event_id);
CREATE INDEX mark_change_event ON mark_change (event_id);

-- On hand, kept in the same transaction as the movements by apply_movements and by nothing else.
CREATE TABLE stock (
  mark_id    bigint NOT NULL,
  place_id   bigint NOT NULL REFERENCES place,
  mark_kind  text NOT NULL,
  quantity   quantity NOT NULL,
  PRIMARY KEY (mark_id, place_id),
  FOREIGN KEY (mark_id, mark_kind) REFERENCES mark (id, kind),
  CONSTRAINT never_negative CHECK (quantity >= 0),                                    -- law 1
  CONSTRAINT a_serial_is_one_or_none CHECK (mark_kind <> 'serial' OR quantity IN (0, 1))  -- law 2
);
CREATE UNIQUE INDEX stock_serial_in_one_place ON stock (mark_id) WHERE mark_kind = 'serial' AND quantity > 0;  -- law 2
CREATE INDEX stock_place ON stock (place_id, mark_id) WHERE quantity > 0;
CREATE INDEX stock_on_hand ON stock (mark_id) INCLUDE (quantity) WHERE quantity > 0;

-- The answer given to each booking's idempotency key, so that a second sending books nothing (law 5).
CREATE TABLE booking_key (
  person_id     bigint NOT NULL REFERENCES person,
  key           text NOT NULL CHECK (length(key) BETWEEN 1 AND 200),
  request_hash  bytea NOT NULL,
  event_id      bigint NOT NULL REFERENCES event,
  answer        text NOT NULL,
  kept_at       timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (person_id, key)
);

-- Law 3. Takes before adds, so that a serial may move from one place to another in one statement; rows in
-- (mark, place) order, so that two bookings meeting here wait for each other instead of dead-locking.
CREATE FUNCTION apply_movements() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
  wanted bigint;
  taken bigint;
BEGIN
  IF EXISTS (SELECT FROM new_movements WHERE quantity < 0) THEN
    WITH net AS MATERIALIZED (
      SELECT mark_id, place_id, sum(quantity) AS quantity FROM new_movements GROUP BY mark_id, place_id HAVING sum(quantity) < 0
    ), done AS (
      UPDATE stock s SET quantity = s.quantity + n.quantity FROM net n WHERE s.mark_id = n.mark_id AND s.place_id = n.place_id RETURNING 1
    )
    SELECT (SELECT count(*) FROM net), (SELECT count(*) FROM done) INTO wanted, taken;
    IF taken < wanted THEN
      RAISE EXCEPTION 'a movement takes from a place where the mark has never been'
        USING ERRCODE = 'check_violation', CONSTRAINT = 'never_negative', TABLE = 'stock';
    END IF;
  END IF;
  INSERT INTO stock AS s (mark_id, place_id, mark_kind, quantity)
    SELECT n.mark_id, n.place_id, m.kind, n.quantity
    FROM (SELECT mark_id, place_id, sum(quantity) AS quantity FROM new_movements GROUP BY mark_id, place_id HAVING sum(quantity) > 0) n
    JOIN mark m ON m.id = n.mark_id ORDER BY 1, 2
    ON CONFLICT (mark_id, place_id) DO UPDATE SET quantity = s.quantity + excluded.quantity;
  RETURN NULL;
END $$;
CREATE TRIGGER apply_movements AFTER INSERT ON movement REFERENCING NEW TABLE AS new_movements
  FOR EACH STATEMENT EXECUTE FUNCTION apply_movements();

CREATE FUNCTION apply_mark_change() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
  found_row mark%ROWTYPE;
  present text;
BEGIN
  SELECT * INTO found_row FROM mark WHERE id = NEW.mark_id FOR NO KEY UPDATE;
  present := CASE NEW.field
    WHEN 'state' THEN found_row.state WHEN 'expires_on' THEN found_row.expires_on::text WHEN 'made_on' THEN found_row.made_on::text
    WHEN 'retest_on' THEN found_row.retest_on::text WHEN 'supplier_number' THEN found_row.supplier_number
    WHEN 'warranty_start' THEN found_row.warranty_start::text END;
  IF present IS DISTINCT FROM NEW.old_value THEN
    RAISE EXCEPTION 'mark % has % = %, not %', NEW.mark_id, NEW.field, present, NEW.old_value USING ERRCODE = 'serialization_failure';
  END IF;
  UPDATE mark SET
    state           = CASE NEW.field WHEN 'state' THEN NEW.new_value ELSE state END,
    expires_on      = CASE NEW.field WHEN 'expires_on' THEN NEW.new_value::date ELSE expires_on END,
    made_on         = CASE NEW.field WHEN 'made_on' THEN NEW.new_value::date ELSE made_on END,
    retest_on       = CASE NEW.field WHEN 'retest_on' THEN NEW.new_value::date ELSE retest_on END,
    supplier_number = CASE NEW.field WHEN 'supplier_number' THEN NEW.new_value ELSE supplier_number END,
    warranty_start  = CASE NEW.field WHEN 'warranty_start' THEN NEW.new_value::date ELSE warranty_start END
  WHERE id = NEW.mark_id;
  RETURN NULL;
END $$;
CREATE TRIGGER apply_mark_change AFTER INSERT ON mark_change FOR EACH ROW EXECUTE FUNCTION apply_mark_change();

-- Law 7, against everybody, the owner of the tables included.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% is append-only: % is refused; a correction is a new event', TG_TABLE_NAME, TG_OP USING ERRCODE = 'insufficient_privilege';
END $$;
DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['event', 'movement', 'transformation', 'transformation_input', 'transformation_output', 'mark_change'] LOOP
    EXECUTE format('CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name);
  END LOOP;
END $$;
CREATE TRIGGER never_deleted BEFORE DELETE OR TRUNCATE ON mark FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
