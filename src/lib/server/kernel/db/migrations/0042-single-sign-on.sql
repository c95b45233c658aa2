-- Who somebody is at an identity provider: its name and theirs there, which stays the same.
CREATE TABLE person_elsewhere (
  issuer     text NOT NULL CHECK (length(issuer) BETWEEN 1 AND 500),
  subject    text NOT NULL CHECK (length(subject) BETWEEN 1 AND 255),
  person_id  bigint NOT NULL REFERENCES person,
  since      timestamptz NOT NULL DEFAULT clock_timestamp(),
  PRIMARY KEY (issuer, subject)
);
CREATE UNIQUE INDEX person_elsewhere_person ON person_elsewhere (person_id, issuer);

-- A sign-in there that was begun here: what its answer must fit.
CREATE TABLE sign_in_begun (
  state_hash  bytea PRIMARY KEY,
  verifier    text NOT NULL,
  nonce       text NOT NULL,
  to_path     text NOT NULL CHECK (length(to_path) <= 2000),
  begun_at    timestamptz NOT NULL DEFAULT clock_timestamp()
);

-- The one person who may still sign in with a password here; everybody where it is nobody.
ALTER TABLE access_setting ADD COLUMN only_local bigint REFERENCES person;

-- Whether its person came by a provider: what a password is worth does not matter to it.
ALTER TABLE session ADD COLUMN elsewhere boolean NOT NULL DEFAULT false;

GRANT SELECT, INSERT ON person_elsewhere TO earmark_app;
GRANT SELECT, INSERT, DELETE ON sign_in_begun TO earmark_app;
