-- Answers about the whole ledger, and when they were worked out: where that takes longer than a
-- screen should, the screen shows the last one and says of when it is.
CREATE TABLE kept_answer (
  name        text PRIMARY KEY CHECK (length(name) BETWEEN 1 AND 200),
  body        jsonb,
  made_at     timestamptz,
  took_ms     integer,
  -- The last event there was when it was begun.
  last_event  bigint,
  -- Somebody is at work on it since; whoever does not finish within ten minutes has died.
  begun_at    timestamptz,
  CONSTRAINT made_as_a_whole CHECK (num_nulls(body, made_at, took_ms) IN (0, 3))
);
GRANT SELECT, INSERT, UPDATE ON kept_answer TO earmark_app;

-- Tests that wait for a second person's signature, of all there ever were.
CREATE TABLE unsigned_test (
  test_id  bigint PRIMARY KEY REFERENCES quality_test
);
INSERT INTO unsigned_test (test_id)
SELECT t.id
FROM quality_test t
WHERE NOT EXISTS (SELECT FROM test_signature s WHERE s.test_id = t.id);

CREATE FUNCTION test_waits() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  INSERT INTO unsigned_test (test_id) SELECT id FROM new_tests;
  RETURN NULL;
END $$;
CREATE TRIGGER test_waits AFTER INSERT ON quality_test
REFERENCING NEW TABLE AS new_tests FOR EACH STATEMENT EXECUTE FUNCTION test_waits();

CREATE FUNCTION test_is_signed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  DELETE FROM unsigned_test WHERE test_id IN (SELECT test_id FROM new_signatures);
  RETURN NULL;
END $$;
CREATE TRIGGER test_is_signed AFTER INSERT ON test_signature
REFERENCING NEW TABLE AS new_signatures FOR EACH STATEMENT EXECUTE FUNCTION test_is_signed();
GRANT SELECT ON unsigned_test TO earmark_app;

CREATE INDEX mark_retest ON mark (retest_on) WHERE retest_on IS NOT NULL;
-- Beginnings of numbers, of orders as of suppliers' numbers; what events refer to.
CREATE INDEX trade_order_number_begins ON trade_order (upper(number) text_pattern_ops);
DROP INDEX mark_supplier_number;
CREATE INDEX mark_supplier_number ON mark (upper(supplier_number) text_pattern_ops)
WHERE supplier_number IS NOT NULL;
CREATE INDEX event_reference ON event (upper(reference)) WHERE reference IS NOT NULL;
