-- The role the application works under. It can add to the ledger and can change nothing in it; stock it may only read
-- and lock; a mark changes only through mark_change. Its log-in and password, where it has one, are set at start
-- (scripts/cluster.mjs), never here.
DO $$
BEGIN
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'earmark_app') THEN
    CREATE ROLE earmark_app NOLOGIN;
  END IF;
END $$;
-- A provider's database user is no superuser and must be a member to step into the role.
DO $$
BEGIN
  IF NOT pg_has_role(current_user, 'earmark_app', 'MEMBER') THEN
    EXECUTE format('GRANT earmark_app TO %I', current_user);
  END IF;
END $$;

GRANT USAGE ON SCHEMA public TO earmark_app;
GRANT SELECT ON ALL TABLES IN SCHEMA public TO earmark_app;
GRANT USAGE ON SEQUENCE event_id_seq, mark_id_seq, transformation_id_seq TO earmark_app;

GRANT INSERT, UPDATE ON site, place, partner, product, person, trade_order TO earmark_app;
GRANT INSERT, UPDATE, DELETE ON bill_line, order_line, draft, session TO earmark_app;
GRANT INSERT ON api_token, sign_in_attempt TO earmark_app;
GRANT UPDATE (revoked_at) ON api_token TO earmark_app;
GRANT DELETE ON sign_in_attempt TO earmark_app;

-- Law 9: when a booking was made is the database's to say, so booked_at is not among the columns it may give.
GRANT INSERT (id, kind, document, reference, order_id, partner_id, happened_at, booked_by, reason, reverses_id) ON event TO earmark_app;
GRANT INSERT ON mark, movement, transformation, transformation_input, transformation_output, mark_change, booking_key TO earmark_app;
-- SELECT … FOR UPDATE needs a right to update; one on mark_kind alone, which no application code writes and the foreign key to mark pins.
GRANT UPDATE (mark_kind) ON stock TO earmark_app;
