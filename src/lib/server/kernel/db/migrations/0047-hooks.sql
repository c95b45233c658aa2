-- News for other systems: addresses that are told, what each is told of, and what became of it.
CREATE TABLE hook (
  id        bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  name      text NOT NULL CHECK (length(name) BETWEEN 1 AND 100),
  url       text NOT NULL CHECK (length(url) BETWEEN 1 AND 500),
  -- Boxed with a key outside of the database: what it signs with is worth a forged message.
  secret    bytea NOT NULL,
  types     text[] NOT NULL CHECK (cardinality(types) > 0),
  made_at   timestamptz NOT NULL DEFAULT clock_timestamp(),
  made_by   bigint NOT NULL REFERENCES person,
  ended_at  timestamptz
);

CREATE TABLE hook_message (
  id        bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  type      text NOT NULL CHECK (length(type) BETWEEN 1 AND 60),
  event_id  bigint REFERENCES event,
  case_id   bigint REFERENCES recall_case,
  at        timestamptz NOT NULL DEFAULT clock_timestamp(),
  CONSTRAINT of_one_thing CHECK (num_nonnulls(event_id, case_id) = 1)
);
CREATE UNIQUE INDEX hook_message_event ON hook_message (event_id) WHERE event_id IS NOT NULL;

CREATE TABLE hook_delivery (
  id           bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  hook_id      bigint NOT NULL REFERENCES hook,
  message_id   bigint NOT NULL REFERENCES hook_message,
  tries        integer NOT NULL DEFAULT 0,
  -- When it is sent next; null once it was taken, or given up.
  next_at      timestamptz DEFAULT clock_timestamp(),
  done_at      timestamptz,
  last_at      timestamptz,
  last_answer  text CHECK (length(last_answer) <= 300),
  UNIQUE (hook_id, message_id)
);
CREATE INDEX hook_delivery_due ON hook_delivery (next_at) WHERE next_at IS NOT NULL;

-- Up to where the sealed ledger was read.
CREATE TABLE hook_cursor (
  one_row   boolean PRIMARY KEY DEFAULT true CHECK (one_row),
  position  bigint NOT NULL
);
INSERT INTO hook_cursor (position)
SELECT coalesce(max(position) + 1, 0)
FROM seal_leaf;

-- A recall is no event of the ledger: its turns are told as they are committed.
CREATE FUNCTION tell_hooks_of_recall() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  told text;
  message bigint;
BEGIN
  told := CASE
    WHEN TG_OP = 'INSERT' THEN 'recall.opened'
    WHEN OLD.decided_at IS NULL AND NEW.decided_at IS NOT NULL THEN 'recall.decided'
    WHEN OLD.closed_at IS NULL AND NEW.closed_at IS NOT NULL THEN 'recall.closed'
  END;
  IF told IS NULL OR NOT EXISTS (
    SELECT FROM hook WHERE ended_at IS NULL AND told = ANY (types)
  ) THEN RETURN NULL; END IF;
  INSERT INTO hook_message (type, case_id) VALUES (told, NEW.id) RETURNING id INTO message;
  INSERT INTO hook_delivery (hook_id, message_id)
  SELECT id, message FROM hook WHERE ended_at IS NULL AND told = ANY (types);
  RETURN NULL;
END $$;
CREATE TRIGGER tell_hooks AFTER INSERT OR UPDATE ON recall_case
FOR EACH ROW EXECUTE FUNCTION tell_hooks_of_recall();

CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON hook_message
FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
GRANT SELECT, INSERT ON hook, hook_message, hook_delivery TO earmark_app;
GRANT UPDATE (ended_at) ON hook TO earmark_app;
GRANT UPDATE (tries, next_at, done_at, last_at, last_answer) ON hook_delivery TO earmark_app;
GRANT SELECT, UPDATE ON hook_cursor TO earmark_app;
