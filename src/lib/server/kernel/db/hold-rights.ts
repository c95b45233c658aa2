import type { Db } from './client.ts';

/** Owns every table and function: it is no superuser, and nobody signs in as it. */
export const LEDGER_OWNER = 'earmark_ledger';

/**
 * Takes from everybody what nobody needs, on every start: a right on the database itself is not in a
 * dump or a copy of it, and what a migration makes belongs to whoever ran it. Afterwards a function
 * that works as its owner works as one who may do nothing beside this schema.
 * @param db works as the cluster's own user, or as one who may make roles
 */
export async function holdRights(db: Db): Promise<void> {
  await db.unsafe(MAKE_OWNER);
  await db.unsafe(HAND_OVER);
}

const MAKE_OWNER = `
  DO $$
  BEGIN
    IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = '${LEDGER_OWNER}') THEN
      CREATE ROLE ${LEDGER_OWNER} NOLOGIN;
    END IF;
  EXCEPTION
    -- Another database of the cluster was quicker.
    WHEN duplicate_object OR unique_violation THEN NULL;
  END $$
`;

/** Extensions keep what is theirs; the sequence of an identity goes with its table. */
const HAND_OVER = `
  DO $$
  DECLARE
    thing record;
  BEGIN
    IF NOT pg_has_role(current_user, '${LEDGER_OWNER}', 'MEMBER') THEN
      EXECUTE format('GRANT ${LEDGER_OWNER} TO %I', current_user);
    END IF;
    IF has_database_privilege('public', current_database(), 'TEMPORARY') THEN
      EXECUTE format(
        'REVOKE TEMPORARY, CREATE ON DATABASE %I FROM PUBLIC', current_database()
      );
    END IF;
    -- Without both, one who is no superuser cannot hand a table over.
    GRANT USAGE, CREATE ON SCHEMA public TO ${LEDGER_OWNER};
    FOR thing IN
      SELECT CASE c.relkind WHEN 'v' THEN 'VIEW' WHEN 'm' THEN 'MATERIALIZED VIEW'
          WHEN 'S' THEN 'SEQUENCE' ELSE 'TABLE' END AS kind,
        c.oid::regclass::text AS name
      FROM pg_class c
      WHERE c.relnamespace = 'public'::regnamespace
        AND c.relkind IN ('r', 'p', 'v', 'm', 'S')
        AND c.relowner <> '${LEDGER_OWNER}'::regrole
        AND NOT EXISTS (
          SELECT FROM pg_depend d
          WHERE d.objid = c.oid AND d.classid = 'pg_class'::regclass AND d.deptype IN ('e', 'i', 'a')
        )
      UNION ALL
      SELECT 'ROUTINE', p.oid::regprocedure::text
      FROM pg_proc p
      WHERE p.pronamespace = 'public'::regnamespace
        AND p.proowner <> '${LEDGER_OWNER}'::regrole
        AND NOT EXISTS (
          SELECT FROM pg_depend d
          WHERE d.objid = p.oid AND d.classid = 'pg_proc'::regclass AND d.deptype = 'e'
        )
      UNION ALL
      SELECT 'TYPE', t.oid::regtype::text
      FROM pg_type t
      WHERE t.typnamespace = 'public'::regnamespace
        AND t.typtype IN ('e', 'd')
        AND t.typowner <> '${LEDGER_OWNER}'::regrole
    LOOP
      EXECUTE format('ALTER %s %s OWNER TO ${LEDGER_OWNER}', thing.kind, thing.name);
    END LOOP;
    REVOKE CREATE ON SCHEMA public FROM ${LEDGER_OWNER};
  END $$
`;
