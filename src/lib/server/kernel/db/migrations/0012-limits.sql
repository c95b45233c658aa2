-- Attempts that are limited (sign-in, signatures), counted before they are checked; the table of
-- the package rate-limiter-flexible. No ledger: what has run out is worth nothing.
CREATE TABLE rate_limit (
  key     varchar(255) PRIMARY KEY,
  points  integer NOT NULL DEFAULT 0,
  expire  bigint
);
CREATE INDEX rate_limit_expire ON rate_limit (expire);
GRANT SELECT, INSERT, UPDATE, DELETE ON rate_limit TO earmark_app;
