-- The stand-ins of devices, where every process that serves sees them alike: what the temperature
-- probe shows, and what lies on the tag reader of each station.
CREATE TABLE device_probe (
  one_row  boolean PRIMARY KEY DEFAULT true CHECK (one_row),
  celsius  text NOT NULL CHECK (length(celsius) <= 40),
  plugged  boolean NOT NULL
);
INSERT INTO device_probe (celsius, plugged) VALUES ('4.5', true);

-- A reader nobody has touched yet has no row: it is plugged in and nothing lies on it.
CREATE TABLE tag_reader (
  station  text PRIMARY KEY CHECK (station = upper(station) AND length(station) <= 100),
  plugged  boolean NOT NULL
);

-- A tag carries its memory with it; it lies on one reader, or on none.
CREATE TABLE reader_tag (
  epc      text PRIMARY KEY CHECK (length(epc) <= 200),
  station  text CHECK (station = upper(station) AND length(station) <= 100),
  memory   text NOT NULL DEFAULT '' CHECK (length(memory) <= 200),
  placed   bigint NOT NULL GENERATED ALWAYS AS IDENTITY
);
CREATE INDEX reader_tag_station ON reader_tag (station, placed) WHERE station IS NOT NULL;

-- When a reader last saw a tag, and the time before: one that stays is seen all the time and read
-- once.
CREATE TABLE tag_seen (
  station  text NOT NULL,
  epc      text NOT NULL,
  mode     text NOT NULL,
  at       timestamptz NOT NULL,
  before   timestamptz,
  PRIMARY KEY (station, epc, mode)
);
CREATE INDEX tag_seen_at ON tag_seen (at);

GRANT SELECT, UPDATE ON device_probe TO earmark_app;
GRANT SELECT, INSERT, UPDATE ON tag_reader, reader_tag TO earmark_app;
GRANT SELECT, INSERT, UPDATE, DELETE ON tag_seen TO earmark_app;
GRANT DELETE ON reader_tag TO earmark_app;
