-- Shipping in depth: who we are on a label, cartons and pallets, pick lists, serials named late.

-- Our own firm as labels, notices and letters name it. One row.
CREATE TABLE company (
  one_row     boolean PRIMARY KEY DEFAULT true CHECK (one_row),
  name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
  -- The GS1 company prefix that SSCCs and identifiers of places begin with. 952 is set aside for examples.
  gs1_prefix  text NOT NULL CHECK (gs1_prefix ~ '^[0-9]{6,12}$'),
  address     text NOT NULL DEFAULT '' CHECK (length(address) <= 1000)
);
INSERT INTO company (name, gs1_prefix) VALUES ('Our company', '9520001');

-- The serial reference of an SSCC is never given twice, not even after a refused booking.
CREATE SEQUENCE sscc_seq;

-- A carton or pallet under its SSCC.
CREATE TABLE logistic_unit (
  id        bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  sscc      text NOT NULL UNIQUE CHECK (sscc ~ '^[0-9]{18}$'),
  kind      text NOT NULL CHECK (kind IN ('carton', 'pallet')),
  order_id  bigint REFERENCES trade_order,
  event_id  bigint NOT NULL REFERENCES event
);
CREATE INDEX logistic_unit_order ON logistic_unit (order_id);

-- What was put into a carton or onto a pallet, or taken out again: signed, never changed.
CREATE TABLE packing (
  id        bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  event_id  bigint NOT NULL REFERENCES event,
  unit_id   bigint NOT NULL REFERENCES logistic_unit,
  mark_id   bigint REFERENCES mark,
  child_id  bigint REFERENCES logistic_unit,
  quantity  quantity NOT NULL CHECK (quantity <> 0),
  CONSTRAINT goods_or_a_carton CHECK ((mark_id IS NULL) <> (child_id IS NULL)),
  CONSTRAINT a_carton_is_one CHECK (child_id IS NULL OR (quantity IN (1, -1) AND child_id <> unit_id))
);
CREATE INDEX packing_event ON packing (event_id);
CREATE INDEX packing_unit ON packing (unit_id);
CREATE INDEX packing_mark ON packing (mark_id) WHERE mark_id IS NOT NULL;

-- What is in each unit now, kept by apply_packing and by nothing else. `shipped` once it has left: what comes back later may be packed anew.
CREATE TABLE unit_content (
  unit_id    bigint NOT NULL REFERENCES logistic_unit,
  mark_id    bigint NOT NULL,
  mark_kind  text NOT NULL,
  quantity   quantity NOT NULL,
  shipped    boolean NOT NULL DEFAULT false,
  PRIMARY KEY (unit_id, mark_id),
  FOREIGN KEY (mark_id, mark_kind) REFERENCES mark (id, kind),
  CONSTRAINT content_never_negative CHECK (quantity >= 0),
  CONSTRAINT a_packed_serial_is_one CHECK (mark_kind <> 'serial' OR quantity IN (0, 1))
);
CREATE UNIQUE INDEX unit_content_serial_once ON unit_content (mark_id) WHERE mark_kind = 'serial' AND quantity > 0 AND NOT shipped;
CREATE INDEX unit_content_mark ON unit_content (mark_id) WHERE quantity > 0;
-- A carton stands on one pallet at the most.
CREATE TABLE unit_on_pallet (
  child_id   bigint PRIMARY KEY REFERENCES logistic_unit,
  pallet_id  bigint NOT NULL REFERENCES logistic_unit
);
CREATE INDEX unit_on_pallet_pallet ON unit_on_pallet (pallet_id);

-- A unit leaves once.
CREATE TABLE unit_shipped (
  unit_id   bigint PRIMARY KEY REFERENCES logistic_unit,
  event_id  bigint NOT NULL REFERENCES event
);
CREATE INDEX unit_shipped_event ON unit_shipped (event_id);

CREATE FUNCTION apply_packing() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF EXISTS (SELECT FROM new_packing n JOIN unit_shipped s ON s.unit_id IN (n.unit_id, n.child_id)) THEN
    RAISE EXCEPTION 'a unit that has left is neither packed nor unpacked' USING ERRCODE = 'check_violation', CONSTRAINT = 'not_after_shipping';
  END IF;
  IF EXISTS (SELECT FROM new_packing n JOIN logistic_unit u ON u.id = n.unit_id LEFT JOIN logistic_unit c ON c.id = n.child_id WHERE (n.child_id IS NOT NULL) AND (u.kind <> 'pallet' OR c.kind <> 'carton')) THEN
    RAISE EXCEPTION 'only cartons stand on pallets' USING ERRCODE = 'check_violation', CONSTRAINT = 'cartons_on_pallets';
  END IF;
  -- What is there already is changed first: an upsert would judge a taking out by itself, before it is added to what is in.
  WITH net AS MATERIALIZED (SELECT unit_id, mark_id, sum(quantity) AS quantity FROM new_packing WHERE mark_id IS NOT NULL GROUP BY unit_id, mark_id),
  done AS (UPDATE unit_content c SET quantity = c.quantity + n.quantity FROM net n WHERE c.unit_id = n.unit_id AND c.mark_id = n.mark_id RETURNING c.unit_id, c.mark_id)
  INSERT INTO unit_content AS c (unit_id, mark_id, mark_kind, quantity)
    SELECT n.unit_id, n.mark_id, m.kind, n.quantity FROM net n JOIN mark m ON m.id = n.mark_id WHERE NOT EXISTS (SELECT FROM done d WHERE d.unit_id = n.unit_id AND d.mark_id = n.mark_id) ORDER BY 2, 1
    ON CONFLICT (unit_id, mark_id) DO UPDATE SET quantity = c.quantity + excluded.quantity;
  DELETE FROM unit_on_pallet p USING new_packing n WHERE n.child_id = p.child_id AND n.unit_id = p.pallet_id AND n.quantity < 0;
  INSERT INTO unit_on_pallet (child_id, pallet_id) SELECT child_id, unit_id FROM new_packing WHERE child_id IS NOT NULL AND quantity > 0 ORDER BY 1;
  RETURN NULL;
END $$;
CREATE TRIGGER apply_packing AFTER INSERT ON packing REFERENCING NEW TABLE AS new_packing FOR EACH STATEMENT EXECUTE FUNCTION apply_packing();

-- A pallet leaves with every carton on it, and a carton on a pallet with its pallet.
CREATE FUNCTION units_leave_whole() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF EXISTS (
    SELECT FROM new_shipped n JOIN unit_on_pallet p ON n.unit_id IN (p.child_id, p.pallet_id)
    WHERE NOT EXISTS (SELECT FROM unit_shipped s WHERE s.unit_id = p.child_id AND s.event_id = n.event_id) OR NOT EXISTS (SELECT FROM unit_shipped s WHERE s.unit_id = p.pallet_id AND s.event_id = n.event_id)
  ) THEN
    RAISE EXCEPTION 'a pallet leaves with its cartons' USING ERRCODE = 'check_violation', CONSTRAINT = 'units_leave_whole';
  END IF;
  UPDATE unit_content c SET shipped = true FROM new_shipped n WHERE c.unit_id = n.unit_id;
  RETURN NULL;
END $$;
CREATE TRIGGER units_leave_whole AFTER INSERT ON unit_shipped REFERENCING NEW TABLE AS new_shipped FOR EACH STATEMENT EXECUTE FUNCTION units_leave_whole();

-- What to fetch for an order, and from where; no mark where any serial of the product will do until one is scanned. No ledger: a list may be made anew.
CREATE TABLE pick (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  order_id    bigint NOT NULL REFERENCES trade_order,
  line        integer NOT NULL CHECK (line > 0),
  product_id  bigint NOT NULL REFERENCES product,
  mark_id     bigint REFERENCES mark,
  place_id    bigint REFERENCES place,
  quantity    quantity NOT NULL CHECK (quantity > 0),
  picked      quantity NOT NULL DEFAULT 0,
  picked_by   bigint REFERENCES person,
  picked_at   timestamptz,
  CONSTRAINT no_more_than_asked CHECK (picked BETWEEN 0 AND quantity),
  CONSTRAINT picked_by_somebody CHECK ((picked > 0) = (picked_by IS NOT NULL))
);
CREATE INDEX pick_order ON pick (order_id, line);
CREATE INDEX pick_mark ON pick (mark_id);
-- The answer to each scan at picking, so that one sent twice picks once.
CREATE TABLE pick_scan (
  person_id   bigint NOT NULL REFERENCES person,
  key         text NOT NULL CHECK (length(key) BETWEEN 1 AND 200),
  order_id    bigint NOT NULL REFERENCES trade_order,
  scanned     text NOT NULL CHECK (length(scanned) <= 300),
  answer      jsonb NOT NULL,
  scanned_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  PRIMARY KEY (person_id, key)
);

-- An order whose serials somebody chose to name later: asked once, a loose end until they are named.
ALTER TABLE trade_order ADD COLUMN serials_later_at timestamptz;

-- Of each mark: what left to whom on which shipment and has not come back. A return names the shipment it takes back.
CREATE TABLE returned (
  event_id    bigint NOT NULL REFERENCES event,
  mark_id     bigint NOT NULL REFERENCES mark,
  shipment_id bigint NOT NULL REFERENCES event,
  quantity    quantity NOT NULL CHECK (quantity > 0),
  PRIMARY KEY (event_id, mark_id, shipment_id)
);
CREATE INDEX returned_of_mark ON returned (mark_id, shipment_id);
CREATE INDEX returned_of_shipment ON returned (shipment_id);
-- No more comes back than left.
CREATE FUNCTION returns_what_left() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
  broken bigint;
BEGIN
  PERFORM pg_advisory_xact_lock(hashtextextended('returned ' || mark_id, 0)) FROM (SELECT DISTINCT mark_id FROM new_returned ORDER BY mark_id) m;
  SELECT n.mark_id INTO broken FROM (SELECT DISTINCT mark_id, shipment_id FROM new_returned) n
  WHERE (SELECT sum(r.quantity) FROM returned r WHERE r.mark_id = n.mark_id AND r.shipment_id = n.shipment_id)
      > coalesce((SELECT -sum(v.quantity) FROM movement v JOIN event e ON e.id = v.event_id AND e.kind = 'ship' WHERE v.event_id = n.shipment_id AND v.mark_id = n.mark_id), 0) LIMIT 1;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION 'more of mark % comes back than left', broken USING ERRCODE = 'check_violation', CONSTRAINT = 'returns_what_left';
  END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER returns_what_left AFTER INSERT ON returned REFERENCING NEW TABLE AS new_returned FOR EACH STATEMENT EXECUTE FUNCTION returns_what_left();

-- What customers have: every shipment of a mark less what came back of it.
CREATE VIEW sold AS
  SELECT s.mark_id, s.event_id, s.quantity - coalesce((SELECT sum(r.quantity) FROM returned r WHERE r.mark_id = s.mark_id AND r.shipment_id = s.event_id), 0) AS quantity, s.quantity AS shipped
  FROM (SELECT v.mark_id, v.event_id, -sum(v.quantity) AS quantity FROM movement v JOIN event e ON e.id = v.event_id AND e.kind = 'ship' GROUP BY v.mark_id, v.event_id) s;

DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['packing', 'unit_shipped', 'pick_scan', 'returned', 'logistic_unit'] LOOP
    EXECUTE format('CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name);
  END LOOP;
END $$;

GRANT SELECT, INSERT ON logistic_unit, packing, unit_shipped, pick_scan, returned TO earmark_app;
GRANT USAGE ON SEQUENCE sscc_seq TO earmark_app;
GRANT SELECT ON unit_content, unit_on_pallet, sold TO earmark_app;
GRANT SELECT, INSERT, UPDATE, DELETE ON pick TO earmark_app;
GRANT SELECT, UPDATE ON company TO earmark_app;

-- The answer of a booking of 10,000 marks is a megabyte and more: packed with lz4, where this PostgreSQL has it, it costs a fraction of what the default does.
DO $$
BEGIN
  ALTER TABLE booking_key ALTER COLUMN answer SET COMPRESSION lz4;
EXCEPTION WHEN feature_not_supported THEN
  NULL;
END $$;
