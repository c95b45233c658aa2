-- The language a partner reads: their papers and letters are written in it.
ALTER TABLE partner ADD COLUMN language text NOT NULL DEFAULT 'en'
  CHECK (language IN ('en', 'de', 'fr', 'es'));

-- What is wrong, and what is asked, as customers of another language read it. The words of a case in
-- English stand with the case.
CREATE TABLE recall_words (
  case_id   bigint NOT NULL REFERENCES recall_case,
  language  text NOT NULL CHECK (language IN ('de', 'fr', 'es')),
  title     text NOT NULL CHECK (length(btrim(title)) BETWEEN 1 AND 200),
  hazard    text NOT NULL CHECK (length(btrim(hazard)) BETWEEN 1 AND 4000),
  request   text NOT NULL DEFAULT '' CHECK (length(request) <= 4000),
  PRIMARY KEY (case_id, language)
);
GRANT SELECT, INSERT, UPDATE ON recall_words TO earmark_app;
