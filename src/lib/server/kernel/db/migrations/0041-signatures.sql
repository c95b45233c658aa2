-- A signature with its meaning: given with a password for one act on one document, then used by it.
CREATE TABLE signature (
  id           bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  secret_hash  bytea NOT NULL UNIQUE,
  act          text NOT NULL CHECK (act IN ('release', 'certificate', 'count', 'amendment', 'recall')),
  meaning      text NOT NULL CHECK (meaning IN ('released by', 'approved by', 'checked by')),
  document     code_text NOT NULL,
  reason       text NOT NULL CHECK (length(btrim(reason)) BETWEEN 1 AND 2000),
  signed_by    bigint NOT NULL REFERENCES person,
  -- Who does the act: the same person, or another.
  asked_by     bigint NOT NULL REFERENCES person,
  signed_at    timestamptz NOT NULL DEFAULT clock_timestamp()
);

-- What was signed. One signature signs one thing.
CREATE TABLE signed (
  signature_id  bigint PRIMARY KEY REFERENCES signature,
  event_id      bigint REFERENCES event,
  certificate   bigint REFERENCES certificate,
  case_id       bigint REFERENCES recall_case,
  CONSTRAINT one_thing CHECK (num_nonnulls(event_id, certificate, case_id) = 1)
);
CREATE UNIQUE INDEX signed_event ON signed (event_id) WHERE event_id IS NOT NULL;
CREATE UNIQUE INDEX signed_certificate ON signed (certificate) WHERE certificate IS NOT NULL;
CREATE INDEX signed_case ON signed (case_id) WHERE case_id IS NOT NULL;

CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON signature
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON signed
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
GRANT SELECT, INSERT ON signature, signed TO earmark_app;

-- An event's signature with all it says, for its page and its seal.
CREATE VIEW event_signature AS
SELECT d.event_id, g.id, g.act, g.meaning, g.reason, g.signed_by, g.signed_at
FROM signed d
  JOIN signature g ON g.id = d.signature_id
WHERE d.event_id IS NOT NULL;
GRANT SELECT ON event_signature TO earmark_app;

-- Whose signature the plans of these products ask for an act: 0 nobody's, 1 whoever's does it, 2 a second person's.
CREATE FUNCTION signature_asked(products bigint[], act text) RETURNS integer
LANGUAGE sql STABLE SET search_path = pg_catalog, public, pg_temp AS $$
  SELECT coalesce(max(
    CASE v.body -> 'signers' ->> act WHEN 'a second person' THEN 2 WHEN 'whoever does it' THEN 1 ELSE 0 END
  ), 0)
  FROM (SELECT DISTINCT p.plan_id FROM product p WHERE p.id = ANY(products) AND p.plan_id IS NOT NULL) q
    JOIN LATERAL (
      SELECT w.body FROM marking_plan_version w WHERE w.plan_id = q.plan_id ORDER BY w.version DESC LIMIT 1
    ) v ON true
$$;

-- Refuses what is not signed as the plans of these products ask: an event, or a certificate.
CREATE FUNCTION require_signature(
  products bigint[], wanted text, of_event bigint, of_certificate bigint, done_by bigint
) RETURNS void
LANGUAGE plpgsql STABLE SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  asked integer := signature_asked(coalesce(products, '{}'), wanted);
  given integer := 0;
BEGIN
  SELECT CASE WHEN g.signed_by <> done_by THEN 2 ELSE 1 END INTO given
  FROM signed d
    JOIN signature g ON g.id = d.signature_id
  WHERE (d.event_id = of_event OR d.certificate = of_certificate) AND g.act = wanted;
  IF coalesce(given, 0) < asked THEN
    RAISE EXCEPTION '% % is not signed as its plans ask', wanted, coalesce(of_event, of_certificate)
      USING ERRCODE = 'raise_exception', CONSTRAINT = 'signed_where_asked';
  END IF;
END $$;

CREATE FUNCTION signed_where_asked() RETURNS trigger
LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  wanted text := CASE NEW.kind WHEN 'release' THEN 'release' WHEN 'count' THEN 'count' ELSE 'amendment' END;
  touched bigint[];
BEGIN
  SELECT array_agg(DISTINCT m.product_id) INTO touched
  FROM mark m
  WHERE m.id IN (
    SELECT c.mark_id FROM mark_change c
    WHERE c.event_id = NEW.id
      AND (wanted <> 'amendment' OR c.field IN ('number', 'expires_on', 'made_on'))
    UNION ALL
    SELECT v.mark_id FROM movement v WHERE v.event_id = NEW.id AND wanted = 'count'
  );
  PERFORM require_signature(touched, wanted, NEW.id, NULL, NEW.booked_by);
  RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER signed_where_asked AFTER INSERT ON event
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN (NEW.kind IN ('release', 'count', 'amendment'))
  EXECUTE FUNCTION signed_where_asked();

CREATE FUNCTION certificate_signed_where_asked() RETURNS trigger
LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  touched bigint[];
BEGIN
  SELECT array_agg(DISTINCT m.product_id) INTO touched
  FROM certificate_mark c
    JOIN mark m ON m.id = c.mark_id
  WHERE c.number = NEW.number;
  PERFORM require_signature(touched, 'certificate', NULL, NEW.number, NEW.issued_by);
  RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER signed_where_asked AFTER INSERT ON certificate
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  EXECUTE FUNCTION certificate_signed_where_asked();
