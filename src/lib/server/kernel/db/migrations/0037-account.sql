-- A person's own account: where they are signed in, a second factor beside the password, a device that locks.

-- Of a session: where it is, when it was last seen, and how far its person has shown who they are.
ALTER TABLE session
  ADD COLUMN id            bigint GENERATED ALWAYS AS IDENTITY UNIQUE,
  ADD COLUMN address       text NOT NULL DEFAULT '' CHECK (length(address) <= 100),
  ADD COLUMN agent         text NOT NULL DEFAULT '' CHECK (length(agent) <= 300),
  ADD COLUMN last_seen_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  ADD COLUMN factor_at     timestamptz,
  ADD COLUMN locked_at     timestamptz,
  -- Come back to by badge and PIN: what takes a password it may not do.
  ADD COLUMN quick         boolean NOT NULL DEFAULT false,
  -- What a passkey is asked to sign, once.
  ADD COLUMN challenge     text,
  ADD COLUMN challenge_at  timestamptz;

-- Time codes (RFC 6238): the secret is kept locked with a key that is not in the database.
CREATE TABLE time_code (
  person_id     bigint PRIMARY KEY REFERENCES person,
  secret        bytea NOT NULL,
  created_at    timestamptz NOT NULL DEFAULT now(),
  -- Null until a code of it was typed: only then it counts.
  confirmed_at  timestamptz,
  -- The last step a code was taken of: none is taken twice.
  last_step     bigint NOT NULL DEFAULT 0
);

CREATE TABLE passkey (
  id             bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  person_id      bigint NOT NULL REFERENCES person,
  credential_id  text NOT NULL UNIQUE CHECK (length(credential_id) <= 1400),
  public_key     bytea NOT NULL,
  counter        bigint NOT NULL,
  transports     text[] NOT NULL DEFAULT '{}',
  name           text NOT NULL CHECK (length(name) BETWEEN 1 AND 100),
  created_at     timestamptz NOT NULL DEFAULT now(),
  last_used_at   timestamptz
);
CREATE INDEX passkey_of_person ON passkey (person_id);

CREATE TABLE recovery_code (
  code_hash  bytea PRIMARY KEY,
  person_id  bigint NOT NULL REFERENCES person,
  used_at    timestamptz
);
CREATE INDEX recovery_code_of_person ON recovery_code (person_id);

-- Whether a person has a second factor beside their password.
CREATE FUNCTION has_factor(person bigint) RETURNS boolean STABLE LANGUAGE sql AS $$
  SELECT EXISTS (SELECT FROM time_code WHERE person_id = person AND confirmed_at IS NOT NULL)
    OR EXISTS (SELECT FROM passkey WHERE person_id = person)
$$;

-- A badge and its PIN bring somebody back to a device that locked.
CREATE TABLE badge (
  person_id   bigint PRIMARY KEY REFERENCES person,
  badge_hash  bytea NOT NULL UNIQUE,
  pin_hash    text NOT NULL CHECK (pin_hash LIKE '$argon2id$%'),
  created_at  timestamptz NOT NULL DEFAULT now()
);

-- How people come in; one row.
CREATE TABLE access_setting (
  one           boolean PRIMARY KEY DEFAULT true CHECK (one),
  -- Whoever has one of these roles needs a second factor.
  factor_roles  text[] NOT NULL DEFAULT '{}',
  -- A device left alone locks after so long.
  lock_minutes  int NOT NULL DEFAULT 30 CHECK (lock_minutes BETWEEN 1 AND 840)
);
INSERT INTO access_setting DEFAULT VALUES;

GRANT SELECT, INSERT, UPDATE, DELETE ON time_code, passkey, recovery_code, badge TO earmark_app;
GRANT SELECT, UPDATE ON access_setting TO earmark_app;
