import { identityChange } from '../../core/catalogue/identity-change.ts';
import { planFaults, withUsualAnswers, type MarkingPlan } from '../../core/catalogue/plan.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { Problem, type FormError } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { cleanCode } from '../kernel/code.ts';
import { onHandByKind } from './products.ts';

export interface PlanRecord {
  code: string;
  name: string;
  version: number;
  plan: MarkingPlan;
  products: string[];
  versions: { version: number; at: string; who: string }[];
}

/**
 * All marking plans in their present version, with who made which version and what is marked by
 * them.
 */
export async function readPlans(db: Db): Promise<PlanRecord[]> {
  const rows = await db<(PlanRecord & { id: number })[]>`
    SELECT m.id, m.code, m.name, v.version, v.body AS plan,
      ARRAY(SELECT p.code::text FROM product p WHERE p.plan_id = m.id ORDER BY p.code) AS products,
      (
        SELECT json_agg(
          json_build_object(
            'version', w.version, 'at', w.made_at, 'who', n.name
          ) ORDER BY w.version DESC
        )
        FROM marking_plan_version w
          JOIN person n ON n.id = w.made_by
        WHERE w.plan_id = m.id
      ) AS versions
    FROM marking_plan m
      JOIN LATERAL (
        SELECT version, body
        FROM marking_plan_version
        WHERE plan_id = m.id
        ORDER BY version DESC
        LIMIT 1
      ) v ON true
    ORDER BY m.code
  `;
  return rows.map(({ id: _, ...row }) => ({ ...row, plan: withUsualAnswers(row.plan) }));
}

/** What of a plan is changed together, in its present version: its products and history are not. */
export const changeablePlan = ({ code, name, version, plan }: PlanRecord): object => ({
  ...{ code, name, version, plan }
});

/** The same of a plan by its code; null where there is none. */
export async function readChangeablePlan(db: Db, code: string): Promise<object | null> {
  const found = (await readPlans(db)).find((one) => numberKey(one.code) === numberKey(code));
  return found ? changeablePlan(found) : null;
}

/** One plan as it was in a version; null where there is no such plan or version. */
export async function readPlanVersion(
  db: Db,
  code: string,
  version: number
): Promise<MarkingPlan | null> {
  const [row] = await db<{ body: MarkingPlan }[]>`
    SELECT v.body
    FROM marking_plan_version v
      JOIN marking_plan m ON m.id = v.plan_id
    WHERE upper(m.code) = ${numberKey(code)} AND v.version = ${version}
  `;
  return row ? withUsualAnswers(row.body) : null;
}

/**
 * Sets a plan up, or gives it a new version; the same plan again makes none. A new identity goes to
 * every product marked by it.
 * @throws Problem 422 naming what is wrong, also where a product could not be marked like that
 */
export async function putPlan(
  sql: Sql | Tx,
  actor: Actor,
  pathCode: string,
  given: MarkingPlan & { name: string }
): Promise<{ version: number; created: boolean; says: string[] }> {
  const code = cleanCode(pathCode, 'marking plan');
  const { name, ...plan } = given;
  const faults = planFaults(plan);
  if (faults.length > 0)
    throw new Problem(
      422,
      'The plan cannot be kept like this',
      faults.map((message) => ({ code: 'request.malformed', path: 'plan', message }))
    );
  return await within(sql, async (tx) => {
    await refuseUnknownSchemes(tx, plan);
    const [row] = await tx<{ id: number; created: boolean }[]>`
      INSERT INTO marking_plan (code, name)
      VALUES (${code}, ${name})
      ON CONFLICT (upper(code)) DO UPDATE SET name = excluded.name
      RETURNING id, (xmax = 0) AS created
    `;
    const [last] = await tx<{ version: number; same: boolean }[]>`
      SELECT version, body = ${tx.json(plan as never)} AS same
      FROM marking_plan_version
      WHERE plan_id = ${row!.id}
      ORDER BY version DESC
      LIMIT 1
    `;
    if (last?.same) return { version: last.version, created: false, says: [] };
    const says = await remark(tx, row!.id, plan.identity);
    const version = (last?.version ?? 0) + 1;
    await tx`
      INSERT INTO marking_plan_version (plan_id, version, body, made_by)
      VALUES (${row!.id}, ${version}, ${tx.json(plan as never)}, ${actor.personId})
    `;
    return { version, created: row!.created, says };
  });
}

/**
 * Gives the plan's products its identity; what that means for what is on hand is answered. @throws
 * Problem 422 where one cannot be marked so
 */
async function remark(tx: Tx, planId: number, identity: Marking): Promise<string[]> {
  const products = await tx<
    { id: number; code: string; marking: Marking; unit: string; decimals: number }[]
  >`
    SELECT id, code, marking, unit, decimals
    FROM product
    WHERE plan_id = ${planId} AND marking <> ${identity}
    FOR UPDATE
  `;
  const errors: FormError[] = [];
  const says: string[] = [];
  for (const product of products) {
    if (product.decimals > 0 && identity.startsWith('serial'))
      errors.push({
        code: 'quantity.not-whole',
        path: 'identity',
        number: product.code,
        message: `${product.code} is counted with ${product.decimals} decimals; what has serials is counted in whole units.`
      });
    const change = identityChange(
      product.code,
      product.marking,
      identity,
      await onHandByKind(tx, product.id, product.unit)
    );
    if (!change.may)
      errors.push({
        code: 'balance.open',
        path: 'identity',
        number: product.code,
        message: change.says.join(' ')
      });
    else says.push(...change.says.map((sentence) => `${product.code}: ${sentence}`));
  }
  if (errors.length > 0)
    throw new Problem(422, 'Not every product of this plan can be marked like that', errors);
  if (products.length > 0)
    await tx`
      UPDATE product
      SET marking = ${identity}
      WHERE id = ANY(${products.map((product) => product.id)})
    `;
  return says;
}

async function refuseUnknownSchemes(tx: Tx, plan: MarkingPlan): Promise<void> {
  const wanted = [plan.lotScheme, plan.serialScheme].filter((scheme) => scheme !== null);
  const found = new Set(
    (
      await tx<{ code: string }[]>`
        SELECT upper(code) AS code
        FROM numbering_scheme
        WHERE upper(code) = ANY(${wanted.map(numberKey)})
      `
    ).map((row) => row.code)
  );
  const missing = wanted.find((scheme) => !found.has(numberKey(scheme)));
  if (missing)
    throw new Problem(422, 'The numbering scheme is not known', [
      {
        code: 'mark.unknown',
        path: 'plan',
        number: shown(missing),
        message: `There is no numbering scheme ${shown(missing)}. Set it up first.`
      }
    ]);
}
