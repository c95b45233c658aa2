-- After the sale: units that come in for service, what was done to them, and claims on suppliers.
ALTER TABLE event DROP CONSTRAINT event_kind_check;
ALTER TABLE event ADD CONSTRAINT event_kind_check CHECK (kind IN (
  'receive', 'put away', 'move', 'transfer', 'build', 'repack', 'teardown', 'identify', 'pack',
  'unpack', 'ship', 'count', 'gain', 'loss', 'scrap', 'hold', 'release', 'reject', 'return', 'fit',
  'remove', 'swap', 'station', 'amendment', 'reversal', 'opening', 'revaluation', 'intake'
));
ALTER TABLE person DROP CONSTRAINT person_roles_check;
ALTER TABLE person ADD CONSTRAINT person_roles_check CHECK (roles <@ ARRAY[
  'receiver', 'builder', 'shipper', 'quality', 'service', 'coordinator', 'auditor', 'administrator'
]);
ALTER TABLE api_token DROP CONSTRAINT api_token_roles_check;
ALTER TABLE api_token ADD CONSTRAINT api_token_roles_check CHECK (
  cardinality(roles) > 0 AND roles <@ ARRAY[
    'receiver', 'builder', 'shipper', 'quality', 'service', 'coordinator', 'auditor',
      'administrator'
  ]
);

-- What a customer's contract says of warranty, in place of the product's own months.
ALTER TABLE partner ADD COLUMN warranty_months integer CHECK (warranty_months BETWEEN 1 AND 1200);

-- Faults as they are counted: by a word of a list beside the customer's own.
CREATE TABLE service_fault (
  code  code_text PRIMARY KEY,
  name  text NOT NULL CHECK (length(name) BETWEEN 1 AND 200)
);

-- One unit, once in our hands for service. While it is open there is no other of the same unit;
-- a unit that is awaited may not be known yet, so it is named by product and serial.
CREATE TABLE service_job (
  id             bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  number         code_text NOT NULL,
  -- What the customer finds it by on the public page: guessing one of 2^100 takes long.
  tracking       text NOT NULL UNIQUE CHECK (tracking ~ '^[0-9A-HJKMNP-TV-Z]{20}$'),
  product_id     bigint NOT NULL REFERENCES product,
  serial         code_text NOT NULL,
  mark_id        bigint REFERENCES mark,
  customer_id    bigint NOT NULL REFERENCES partner,
  place_id       bigint REFERENCES place,
  fault          text NOT NULL CHECK (length(fault) BETWEEN 1 AND 2000),
  fault_code     code_text REFERENCES service_fault,
  condition      text NOT NULL DEFAULT '' CHECK (length(condition) <= 2000),
  accessories    text NOT NULL DEFAULT '' CHECK (length(accessories) <= 2000),
  contact_name   text NOT NULL DEFAULT '' CHECK (length(contact_name) <= 200),
  contact_email  text NOT NULL DEFAULT '' CHECK (length(contact_email) <= 200),
  contact_phone  text NOT NULL DEFAULT '' CHECK (length(contact_phone) <= 60),
  promised_on    date,
  -- Whether the customer pays, and whether it was taken as warranty; null where not decided yet.
  charged        boolean,
  under_warranty boolean,
  state          text NOT NULL CHECK (state IN (
    'waiting for unit', 'to look at', 'waiting for customer', 'waiting for parts', 'in work',
    'to test', 'ready', 'sent back', 'ended'
  )),
  opened_at      timestamptz NOT NULL DEFAULT clock_timestamp(),
  opened_by      bigint NOT NULL REFERENCES person,
  -- Sent again under the key it was opened with, it is the same job.
  key            text NOT NULL CHECK (length(key) <= 200),
  taken_in_at    timestamptz,
  left_at        timestamptz,
  ended_at       timestamptz,
  -- The unit that went out in its place.
  exchange_mark  bigint REFERENCES mark,
  CONSTRAINT ended_when_it_is_over CHECK ((ended_at IS NOT NULL) = (state IN ('sent back', 'ended'))),
  CONSTRAINT here_is_known CHECK (state = 'waiting for unit' OR mark_id IS NOT NULL OR ended_at IS NOT NULL)
);
CREATE UNIQUE INDEX service_job_number ON service_job (upper(number));
CREATE UNIQUE INDEX service_job_key ON service_job (opened_by, key);
CREATE UNIQUE INDEX service_job_open_unit ON service_job (product_id, upper(serial))
  WHERE ended_at IS NULL;
CREATE INDEX service_job_mark ON service_job (mark_id);
CREATE INDEX service_job_board ON service_job (state, promised_on) WHERE ended_at IS NULL;
CREATE SEQUENCE service_job_count;

-- Units that are a customer’s while they are with us, and how long: no stock of ours is worth them.
CREATE VIEW in_service AS
SELECT mark_id, taken_in_at AS since, ended_at AS until
FROM service_job
WHERE taken_in_at IS NOT NULL AND mark_id IS NOT NULL;
GRANT SELECT ON in_service TO earmark_app;

-- What was booked in the course of a job.
CREATE TABLE service_event (
  event_id  bigint PRIMARY KEY REFERENCES event,
  job_id    bigint NOT NULL REFERENCES service_job
);
CREATE INDEX service_event_job ON service_event (job_id);

-- Its history: each turn it took, what was found and what was done, by whom and how long.
CREATE TABLE service_step (
  id       bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  job_id   bigint NOT NULL REFERENCES service_job,
  at       timestamptz NOT NULL DEFAULT clock_timestamp(),
  by       bigint NOT NULL REFERENCES person,
  kind     text NOT NULL CHECK (kind IN ('state', 'finding', 'act')),
  state    text,
  note     text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
  minutes  integer CHECK (minutes BETWEEN 0 AND 100000),
  key      text CHECK (length(key) <= 200),
  CONSTRAINT a_turn_has_its_state CHECK ((kind = 'state') = (state IS NOT NULL)),
  CONSTRAINT what_was_done_is_said CHECK (kind = 'state' OR note <> '')
);
CREATE UNIQUE INDEX service_step_key ON service_step (by, key);
CREATE INDEX service_step_job ON service_step (job_id, id);

CREATE TABLE service_photo (
  id      bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  job_id  bigint NOT NULL REFERENCES service_job,
  type    text NOT NULL CHECK (type IN ('image/png', 'image/jpeg')),
  bytes   bytea NOT NULL CHECK (length(bytes) BETWEEN 1 AND 1000000),
  at      timestamptz NOT NULL DEFAULT clock_timestamp(),
  by      bigint NOT NULL REFERENCES person
);
CREATE INDEX service_photo_job ON service_photo (job_id);

-- Ours on a supplier: parts collected, sent together, answered part by part.
CREATE TABLE claim (
  id           bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  number       code_text NOT NULL,
  supplier_id  bigint NOT NULL REFERENCES partner,
  reference    text NOT NULL DEFAULT '' CHECK (length(reference) <= 100),
  opened_at    timestamptz NOT NULL DEFAULT clock_timestamp(),
  opened_by    bigint NOT NULL REFERENCES person,
  sent_at      timestamptz,
  sent_by      bigint REFERENCES person
);
CREATE UNIQUE INDEX claim_number ON claim (upper(number));
-- What is collected for a supplier goes into one claim, until it is sent.
CREATE UNIQUE INDEX claim_collecting ON claim (supplier_id) WHERE sent_at IS NULL;
CREATE SEQUENCE claim_count;
CREATE TABLE claim_part (
  id            bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  claim_id      bigint NOT NULL REFERENCES claim,
  mark_id       bigint NOT NULL UNIQUE REFERENCES mark,
  job_id        bigint REFERENCES service_job,
  receipt_id    bigint REFERENCES event,
  warranty_until date,
  -- Claimed although the supplier's warranty is over.
  goodwill      boolean NOT NULL DEFAULT false,
  reason        text NOT NULL CHECK (length(reason) BETWEEN 1 AND 2000),
  added_at      timestamptz NOT NULL DEFAULT clock_timestamp(),
  added_by      bigint NOT NULL REFERENCES person,
  outcome       text CHECK (outcome IN ('credited', 'replaced', 'refused')),
  outcome_note  text NOT NULL DEFAULT '' CHECK (length(outcome_note) <= 2000),
  replaced_by   text,
  answered_at   timestamptz,
  answered_by   bigint REFERENCES person,
  key           text NOT NULL CHECK (length(key) <= 200),
  CONSTRAINT answered_with_an_outcome CHECK ((outcome IS NULL) = (answered_at IS NULL))
);
CREATE UNIQUE INDEX claim_part_key ON claim_part (added_by, key);
CREATE INDEX claim_part_claim ON claim_part (claim_id);

-- Messages to customers, kept as they were sent: the outbox stands in for mail.
CREATE TABLE service_message (
  id       bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  job_id   bigint NOT NULL REFERENCES service_job,
  at       timestamptz NOT NULL DEFAULT clock_timestamp(),
  state    text NOT NULL,
  address  text NOT NULL,
  subject  text NOT NULL,
  body     text NOT NULL
);
CREATE INDEX service_message_job ON service_message (job_id);
-- Where a mail server is set, what became of a message: sent, or why it was refused.
CREATE TABLE service_delivery (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  message_id  bigint NOT NULL REFERENCES service_message,
  at          timestamptz NOT NULL DEFAULT clock_timestamp(),
  refused     text
);
CREATE UNIQUE INDEX service_delivery_once ON service_delivery (message_id) WHERE refused IS NULL;
CREATE INDEX service_delivery_message ON service_delivery (message_id);

-- What the public pages say; they are off until the company switches them on.
CREATE TABLE service_settings (
  only_row    boolean PRIMARY KEY DEFAULT true CHECK (only_row),
  tracking    boolean NOT NULL DEFAULT false,
  unit_pages  boolean NOT NULL DEFAULT false,
  -- Of a unit's page: what is shown beside its product.
  shows       text[] NOT NULL DEFAULT '{made,warranty,recall}'
    CHECK (shows <@ ARRAY['made', 'warranty', 'recall']),
  -- How to send it in, in the company's words; and what is told at which turn.
  how_to_send text NOT NULL DEFAULT '' CHECK (length(how_to_send) <= 2000),
  tells       text[] NOT NULL DEFAULT '{to look at,ready,sent back}'
);
INSERT INTO service_settings DEFAULT VALUES;

GRANT SELECT, INSERT, UPDATE ON service_job, claim, claim_part, service_fault TO earmark_app;
GRANT SELECT, INSERT ON service_event, service_step, service_photo, service_message,
  service_delivery TO earmark_app;
GRANT SELECT, UPDATE ON service_settings TO earmark_app;
GRANT USAGE ON SEQUENCE service_job_count, claim_count TO earmark_app;

CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON service_event
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON service_step
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON service_message
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
