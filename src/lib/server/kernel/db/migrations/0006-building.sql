-- Building in depth: bills with versions, numbers named ahead, what a build left open, reversals in part, repack, floor stations.

-- A bill is never changed: every change is a new version, so that an old build is compared with the bill of its day.
CREATE TABLE bill (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  product_id  bigint NOT NULL REFERENCES product,
  version     integer NOT NULL CHECK (version > 0),
  valid_from  date NOT NULL,
  -- How much of the product one batch makes, for parts that are needed once a batch; null: one batch is the whole order.
  batch       quantity CHECK (batch > 0),
  note        text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
  made_at     timestamptz NOT NULL DEFAULT clock_timestamp(),
  -- Null for what stood there before bills had versions.
  made_by     bigint REFERENCES person,
  UNIQUE (product_id, version)
);
CREATE INDEX bill_in_force ON bill (product_id, valid_from DESC, version DESC);

CREATE TABLE bill_part (
  bill_id        bigint NOT NULL REFERENCES bill,
  line           integer NOT NULL CHECK (line > 0),
  component_id   bigint NOT NULL REFERENCES product,
  quantity       quantity NOT NULL CHECK (quantity > 0),
  per            text NOT NULL DEFAULT 'unit' CHECK (per IN ('unit', 'batch')),
  -- How much more is planned for than goes in, in per cent.
  scrap_percent  numeric(6, 3) NOT NULL DEFAULT 0 CHECK (scrap_percent BETWEEN 0 AND 100),
  -- Named for every unit, named for the batch, or drawn by itself, first expired first.
  follow         text NOT NULL CHECK (follow IN ('unit', 'batch', 'drawn')),
  positions      text[] NOT NULL DEFAULT '{}',
  alternates     bigint[] NOT NULL DEFAULT '{}',
  revision       text CHECK (length(revision) BETWEEN 1 AND 60),
  PRIMARY KEY (bill_id, line),
  UNIQUE (bill_id, component_id)
);
CREATE INDEX bill_part_where_used ON bill_part (component_id, bill_id);
CREATE INDEX bill_part_alternates ON bill_part USING gin (alternates);

CREATE TABLE bill_co_product (
  bill_id     bigint NOT NULL REFERENCES bill,
  product_id  bigint NOT NULL REFERENCES product,
  quantity    quantity NOT NULL CHECK (quantity > 0),
  -- What part of the inputs it takes, in per cent.
  share       numeric(6, 3) NOT NULL CHECK (share > 0 AND share < 100),
  PRIMARY KEY (bill_id, product_id)
);

INSERT INTO bill (product_id, version, valid_from) SELECT DISTINCT product_id, 1, DATE '2000-01-01' FROM bill_line;
INSERT INTO bill_part (bill_id, line, component_id, quantity, follow)
  SELECT b.id, row_number() OVER (PARTITION BY b.id ORDER BY p.code), l.component_id, l.quantity, CASE WHEN p.marking = 'none' THEN 'drawn' ELSE 'unit' END
  FROM bill_line l JOIN bill b ON b.product_id = l.product_id JOIN product p ON p.id = l.component_id;
DROP TABLE bill_line;

-- What went into several units together is a transformation with all of them as its outputs; they are made by their own ones, and only once.
ALTER TABLE transformation ADD COLUMN shared boolean NOT NULL DEFAULT false;

-- Where on the unit a part sits, where its bill names positions.
ALTER TABLE transformation_input ADD COLUMN position text CHECK (length(position) BETWEEN 1 AND 60);

-- The order keeps the version it was entered with.
ALTER TABLE trade_order ADD COLUMN bill_id bigint REFERENCES bill;
UPDATE trade_order o SET bill_id = b.id FROM order_line l JOIN bill b ON b.product_id = l.product_id WHERE l.order_id = o.id AND l.line = 1 AND o.kind = 'work';

-- Numbers of a work order's outputs, named before they are made. Its id is the serial of the unit's tag.
CREATE TABLE planned_output (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  order_id    bigint NOT NULL REFERENCES trade_order,
  product_id  bigint NOT NULL REFERENCES product,
  lot         code_text,
  number      code_text NOT NULL,
  number_key  text GENERATED ALWAYS AS (upper((number::text) COLLATE "C")) STORED,
  named_at    timestamptz NOT NULL DEFAULT clock_timestamp(),
  named_by    bigint NOT NULL REFERENCES person,
  CONSTRAINT planned_once UNIQUE (product_id, number_key)
);
CREATE INDEX planned_output_order ON planned_output (order_id, id);
CREATE INDEX planned_output_number ON planned_output (number_key);       -- the scan field

-- Parts of the bill that a build did not name: loose ends until they are put in.
CREATE TABLE build_gap (
  event_id           bigint NOT NULL REFERENCES event,
  transformation_id  bigint NOT NULL REFERENCES transformation,
  mark_id            bigint NOT NULL REFERENCES mark,
  component_id       bigint NOT NULL REFERENCES product,
  wanted             quantity NOT NULL CHECK (wanted > 0),
  used               quantity NOT NULL CHECK (used >= 0 AND used < wanted),
  PRIMARY KEY (transformation_id, mark_id, component_id)
);
CREATE INDEX build_gap_mark ON build_gap (mark_id);

-- What a reversal took back: a build may be reversed in parts, each of its transformations once.
ALTER TABLE event DROP CONSTRAINT event_reverses_id_key;
CREATE INDEX event_reverses ON event (reverses_id) WHERE reverses_id IS NOT NULL;
CREATE TABLE transformation_reversed (
  transformation_id  bigint PRIMARY KEY REFERENCES transformation,
  event_id           bigint NOT NULL REFERENCES event
);
CREATE INDEX transformation_reversed_event ON transformation_reversed (event_id);

-- What counts towards an order: what was made, received or shipped under it, less what was taken back, and for goods that the order
-- made itself less what went in again as rework or was scrapped.
CREATE VIEW order_done AS
  SELECT e.order_id, m.product_id, sum(v.quantity) FILTER (WHERE
    e.kind IN ('receive', 'ship', 'return') OR (e.kind = 'build' AND v.quantity > 0) OR (e.kind = 'reversal' AND (v.quantity < 0 OR k.kind = 'sales')) OR
    (e.kind IN ('build', 'reversal', 'scrap') AND b.order_id = e.order_id)) * CASE WHEN k.kind = 'sales' THEN -1 ELSE 1 END AS done
  FROM event e JOIN trade_order k ON k.id = e.order_id JOIN movement v ON v.event_id = e.id JOIN mark m ON m.id = v.mark_id JOIN event b ON b.id = m.birth_event
  GROUP BY e.order_id, m.product_id, k.kind;

-- Law 8: a repack conserves net weight, to the gram and beyond.
CREATE FUNCTION repack_balances() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  broken bigint;
BEGIN
  SELECT t.id INTO broken
  FROM (SELECT DISTINCT transformation_id AS id FROM new_outputs) n JOIN transformation t ON t.id = n.id JOIN event e ON e.id = t.event_id AND e.kind = 'repack'
  WHERE (SELECT sum(i.quantity * p.net_weight_kg) FROM transformation_input i JOIN mark m ON m.id = i.mark_id JOIN product p ON p.id = m.product_id WHERE i.transformation_id = t.id)
     IS DISTINCT FROM (SELECT sum(o.quantity * p.net_weight_kg) FROM transformation_output o JOIN mark m ON m.id = o.mark_id JOIN product p ON p.id = m.product_id WHERE o.transformation_id = t.id)
  LIMIT 1;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION 'repack % does not conserve net weight', broken USING ERRCODE = 'check_violation', CONSTRAINT = 'repack_balances';
  END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER repack_balances AFTER INSERT ON transformation_output REFERENCING NEW TABLE AS new_outputs FOR EACH STATEMENT EXECUTE FUNCTION repack_balances();

-- The floor: routes of stations, and every step of every unit.
CREATE TABLE route (
  id    bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  code  code_text NOT NULL,
  name  text NOT NULL CHECK (length(name) BETWEEN 1 AND 200)
);
CREATE UNIQUE INDEX route_code ON route (upper(code));
CREATE TABLE station (
  id        bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  route_id  bigint NOT NULL REFERENCES route,
  position  integer NOT NULL CHECK (position > 0),
  code      code_text NOT NULL,
  name      text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
  -- Taken off the route; what went through it stays.
  gone      boolean NOT NULL DEFAULT false
);
CREATE UNIQUE INDEX station_code ON station (upper(code));
CREATE INDEX station_route ON station (route_id, position);
ALTER TABLE product ADD COLUMN route_id bigint REFERENCES route;

CREATE TABLE station_step (
  event_id    bigint PRIMARY KEY REFERENCES event,
  unit_id     bigint NOT NULL REFERENCES planned_output,
  station_id  bigint NOT NULL REFERENCES station,
  action      text NOT NULL CHECK (action IN ('step', 'hold', 'release', 'rework', 'back')),
  state       text NOT NULL CHECK (state IN ('waiting', 'running', 'finished', 'held', 'rework')),
  -- What it was before it was held or sent to rework, and goes back to.
  before      text CHECK (before IN ('waiting', 'running', 'finished')),
  CONSTRAINT before_where_aside CHECK ((state IN ('held', 'rework')) = (before IS NOT NULL))
);
CREATE INDEX station_step_unit ON station_step (unit_id, event_id DESC);
CREATE INDEX station_step_station ON station_step (station_id, event_id DESC);

DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['bill', 'bill_part', 'bill_co_product', 'build_gap', 'transformation_reversed', 'station_step'] LOOP
    EXECUTE format('CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name);
  END LOOP;
END $$;

GRANT SELECT, INSERT ON bill, bill_part, bill_co_product, build_gap, transformation_reversed, station_step TO earmark_app;
GRANT SELECT, INSERT, UPDATE ON route, station TO earmark_app;
GRANT SELECT, INSERT, DELETE ON planned_output TO earmark_app;
GRANT SELECT ON order_done TO earmark_app;
