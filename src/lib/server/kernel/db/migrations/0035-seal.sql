-- The sealed ledger: every event with all its rows is a leaf of a tree of hashes (RFC 9162), in the order in which it
-- was committed; a head says how many there are and what they come to, and is signed by a key that is not in here.
CREATE TABLE seal_leaf (
  position  bigint PRIMARY KEY CHECK (position >= 0),
  event_id  bigint NOT NULL UNIQUE REFERENCES event,
  -- The first bytes of each part's own hash, so that what was altered can be named.
  parts     bytea NOT NULL
);
-- Full subtrees: level 0 are the leaves.
CREATE TABLE seal_node (
  level  int NOT NULL CHECK (level BETWEEN 0 AND 60),
  index  bigint NOT NULL CHECK (index >= 0),
  hash   bytea NOT NULL CHECK (length(hash) = 32),
  PRIMARY KEY (level, index)
);
CREATE TABLE seal_head (
  size       bigint PRIMARY KEY CHECK (size > 0),
  root       bytea NOT NULL CHECK (length(root) = 32),
  sealed_at  timestamptz NOT NULL,
  -- The public key, and what it signs (see core/seal/head.ts).
  key        bytea NOT NULL CHECK (length(key) = 32),
  signature  bytea NOT NULL CHECK (length(signature) = 64),
  -- Transactions below this one were over, so that nothing of theirs is still to come.
  until_xid  xid8 NOT NULL
);
CREATE INDEX logistic_unit_event ON logistic_unit (event_id);

DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['seal_leaf', 'seal_node', 'seal_head'] LOOP
    EXECUTE format('CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name);
  END LOOP;
END $$;
GRANT SELECT, INSERT ON seal_leaf, seal_node, seal_head TO earmark_app;
