-- The log-ins and the database of Earmark, made once with the cluster.
CREATE ROLE earmark_owner LOGIN CREATEROLE PASSWORD '${OWNER_PASSWORD}';
CREATE ROLE earmark_app LOGIN PASSWORD '${APP_PASSWORD}';
CREATE DATABASE earmark OWNER earmark_owner;

-- What the application asks for at each connection goes past PgBouncer: it stands here.
ALTER ROLE earmark_app SET statement_timeout = '300s';
ALTER ROLE earmark_app SET lock_timeout = '30s';
ALTER ROLE earmark_app SET idle_in_transaction_session_timeout = '60s';
ALTER ROLE earmark_app SET max_parallel_workers_per_gather = 0;
