-- Who could do what on a day: how people stood, kept whenever it changes. Added to only.
CREATE TABLE person_standing (
  id         bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  person_id  bigint NOT NULL REFERENCES person,
  name       text NOT NULL,
  roles      text[] NOT NULL,
  active     boolean NOT NULL,
  since      timestamptz NOT NULL DEFAULT clock_timestamp(),
  -- Who changed it, where somebody did at a screen or by a token.
  changed_by bigint REFERENCES person
);
CREATE INDEX person_standing_of ON person_standing (person_id, since);
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON person_standing
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
GRANT SELECT ON person_standing TO earmark_app;

-- How they stand at this upgrade; what was before it nobody kept.
INSERT INTO person_standing (person_id, name, roles, active)
SELECT id, name, roles, active FROM person;

CREATE FUNCTION keep_standing() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  IF TG_OP = 'UPDATE' AND (OLD.name, OLD.roles, OLD.active) = (NEW.name, NEW.roles, NEW.active) THEN
    RETURN NULL;
  END IF;
  INSERT INTO person_standing (person_id, name, roles, active, changed_by)
  VALUES (
    NEW.id, NEW.name, NEW.roles, NEW.active, nullif(current_setting('earmark.by', true), '')::bigint
  );
  RETURN NULL;
END $$;
CREATE TRIGGER keep_standing AFTER INSERT OR UPDATE ON person
  FOR EACH ROW EXECUTE FUNCTION keep_standing();
