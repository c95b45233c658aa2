-- Who and what: people, sites, places, partners, products, orders.

-- Numbers and codes are printable ASCII so that every one can be printed as a symbol and read back.
CREATE DOMAIN code_text AS text
  CHECK (VALUE ~ '^[\x21-\x7e]([\x20-\x7e]{0,58}[\x21-\x7e])?$');

-- Exact decimals, twelve digits before the point and six after; never a float.
CREATE DOMAIN quantity AS numeric(18, 6);

CREATE TABLE site (
  id    bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  code  code_text NOT NULL,
  name  text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
  zone  text NOT NULL DEFAULT 'Europe/London'
);
CREATE UNIQUE INDEX site_code ON site (upper(code));

CREATE TABLE place (
  id       bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  site_id  bigint NOT NULL REFERENCES site,
  code     code_text NOT NULL,
  name     text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
  kind     text NOT NULL DEFAULT 'rack' CHECK (kind IN ('dock', 'rack', 'bin', 'line', 'quarantine', 'dispatch'))
);
CREATE UNIQUE INDEX place_code ON place (upper(code));

CREATE TABLE partner (
  id        bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  code      code_text NOT NULL,
  name      text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
  supplier  boolean NOT NULL DEFAULT false,
  customer  boolean NOT NULL DEFAULT false,
  gln       text CHECK (gln ~ '^[0-9]{13}$')
);
CREATE UNIQUE INDEX partner_code ON partner (upper(code));

CREATE TABLE product (
  id               bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  code             code_text NOT NULL,
  name             text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
  unit             text NOT NULL CHECK (length(unit) BETWEEN 1 AND 20),
  decimals         smallint NOT NULL DEFAULT 0 CHECK (decimals BETWEEN 0 AND 6),
  made             boolean NOT NULL DEFAULT false,
  marking          text NOT NULL CHECK (marking IN ('none', 'lot', 'serial', 'serial-in-lot')),
  shelf_life_days  integer CHECK (shelf_life_days > 0),
  warranty_months  integer CHECK (warranty_months > 0),
  net_weight_kg    quantity CHECK (net_weight_kg >= 0),
  gtin             text CHECK (gtin ~ '^[0-9]{14}$'),
  -- A serial is one single unit: a product followed by serial is counted in whole units.
  CONSTRAINT serial_is_whole CHECK (decimals = 0 OR marking IN ('none', 'lot'))
);
CREATE UNIQUE INDEX product_code ON product (upper(code));
CREATE UNIQUE INDEX product_gtin ON product (gtin) WHERE gtin IS NOT NULL;

-- What one unit of a made product takes. Proposal for the build sheet and yardstick for the as-built record.
CREATE TABLE bill_line (
  product_id    bigint NOT NULL REFERENCES product,
  component_id  bigint NOT NULL REFERENCES product,
  quantity      quantity NOT NULL CHECK (quantity > 0),
  PRIMARY KEY (product_id, component_id),
  CONSTRAINT not_of_itself CHECK (product_id <> component_id)
);
CREATE INDEX bill_line_where_used ON bill_line (component_id);

CREATE TABLE person (
  id             bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  login          code_text NOT NULL,
  name           text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
  -- argon2id; null for an account that cannot sign in (it books through an API token).
  password_hash  text CHECK (password_hash LIKE '$argon2id$%'),
  roles          text[] NOT NULL DEFAULT '{}' CHECK (roles <@ ARRAY['receiver', 'builder', 'shipper', 'quality', 'coordinator', 'auditor', 'administrator']),
  active         boolean NOT NULL DEFAULT true
);
CREATE UNIQUE INDEX person_login ON person (upper(login));

CREATE TABLE session (
  token_hash  bytea PRIMARY KEY,
  person_id   bigint NOT NULL REFERENCES person,
  created_at  timestamptz NOT NULL DEFAULT now(),
  expires_at  timestamptz NOT NULL
);
CREATE INDEX session_of_person ON session (person_id);

CREATE TABLE api_token (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 100),
  person_id   bigint NOT NULL REFERENCES person,
  roles       text[] NOT NULL CHECK (cardinality(roles) > 0 AND roles <@ ARRAY['receiver', 'builder', 'shipper', 'quality', 'coordinator', 'auditor', 'administrator']),
  token_hash  bytea NOT NULL UNIQUE,
  created_at  timestamptz NOT NULL DEFAULT now(),
  revoked_at  timestamptz
);

CREATE TABLE sign_in_attempt (
  id         bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  login_key  text NOT NULL,
  address    text NOT NULL,
  at         timestamptz NOT NULL DEFAULT clock_timestamp(),
  succeeded  boolean NOT NULL
);
CREATE INDEX sign_in_attempt_login ON sign_in_attempt (login_key, at);
CREATE INDEX sign_in_attempt_address ON sign_in_attempt (address, at);

-- Purchase, work and sales orders. ("order" is a reserved word of SQL.)
CREATE TABLE trade_order (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  kind        text NOT NULL CHECK (kind IN ('purchase', 'work', 'sales')),
  number      code_text NOT NULL,
  partner_id  bigint REFERENCES partner,
  place_id    bigint REFERENCES place,
  placed_on   date NOT NULL,
  due_on      date NOT NULL,
  note        text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
  -- Set when somebody ends an order before it is complete; completeness itself is counted from the ledger.
  closed_at   timestamptz,
  CONSTRAINT partner_where_traded CHECK ((kind = 'work') = (partner_id IS NULL))
);
CREATE UNIQUE INDEX trade_order_number ON trade_order (kind, upper(number));
CREATE INDEX trade_order_partner ON trade_order (partner_id);

CREATE TABLE order_line (
  order_id    bigint NOT NULL REFERENCES trade_order,
  line        integer NOT NULL CHECK (line > 0),
  product_id  bigint NOT NULL REFERENCES product,
  quantity    quantity NOT NULL CHECK (quantity > 0),
  PRIMARY KEY (order_id, line)
);
CREATE INDEX order_line_product ON order_line (product_id);

-- What somebody has typed and not yet booked, one per person and sheet.
CREATE TABLE draft (
  person_id  bigint NOT NULL REFERENCES person,
  sheet      text NOT NULL CHECK (length(sheet) BETWEEN 1 AND 120),
  body       jsonb NOT NULL,
  kept_at    timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (person_id, sheet)
);
