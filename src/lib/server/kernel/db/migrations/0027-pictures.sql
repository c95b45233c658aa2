-- What a product looks like, for whoever builds, picks or reads a paper.
CREATE TABLE product_picture (
  product_id  bigint PRIMARY KEY REFERENCES product,
  type        text NOT NULL CHECK (type IN ('image/png', 'image/jpeg')),
  bytes       bytea NOT NULL CHECK (length(bytes) BETWEEN 1 AND 1000000),
  set_by      bigint NOT NULL REFERENCES person,
  set_at      timestamptz NOT NULL DEFAULT clock_timestamp()
);
GRANT SELECT, INSERT, UPDATE, DELETE ON product_picture TO earmark_app;
