-- An event's own id is its sender's to give: another firm that uses it first does not keep the true one out. What has
-- no id goes by the hash of what it says, whoever sends it.
ALTER TABLE foreign_event DROP CONSTRAINT foreign_event_event_hash_key;
CREATE UNIQUE INDEX foreign_event_once
  ON foreign_event (event_hash, (CASE WHEN event_id IS NULL THEN '' ELSE sender END));
