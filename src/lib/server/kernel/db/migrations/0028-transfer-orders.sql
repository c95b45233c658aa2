-- A transfer may be ordered before anything of it leaves: how much of what is to go, and until when.
-- What it asks for may be changed until something has left; closed, the rest is not sent.
CREATE TABLE transfer_order (
  transfer_id  bigint PRIMARY KEY REFERENCES transfer,
  due_on       date,
  note         text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
  ordered_at   timestamptz NOT NULL DEFAULT clock_timestamp(),
  ordered_by   bigint NOT NULL REFERENCES person,
  closed_at    timestamptz
);
CREATE TABLE transfer_line (
  transfer_id  bigint NOT NULL REFERENCES transfer_order,
  line         integer NOT NULL CHECK (line > 0),
  product_id   bigint NOT NULL REFERENCES product,
  quantity     numeric NOT NULL CHECK (quantity > 0),
  PRIMARY KEY (transfer_id, line),
  UNIQUE (transfer_id, product_id)
);
GRANT SELECT, INSERT, UPDATE ON transfer_order TO earmark_app;
GRANT SELECT, INSERT, DELETE ON transfer_line TO earmark_app;

-- How much of a product has left on a transfer, and how much of it has arrived; what was taken back
-- does not count.
CREATE VIEW transfer_progress AS
SELECT t.id AS transfer_id, m.product_id,
  coalesce(sum(v.quantity) FILTER (WHERE v.quantity > 0), 0) AS gone,
  coalesce(-sum(v.quantity) FILTER (WHERE v.quantity < 0 AND e.kind = 'transfer'), 0) AS arrived
FROM transfer t
  JOIN transfer_event x ON x.transfer_id = t.id
  JOIN event e ON e.id = x.event_id
  JOIN movement v ON v.event_id = e.id AND v.place_id = t.place_id
  JOIN mark m ON m.id = v.mark_id
WHERE NOT is_taken_back(e.id, m.id)
GROUP BY t.id, m.product_id;
GRANT SELECT ON transfer_progress TO earmark_app;
