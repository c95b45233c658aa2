import { personTold, type PersonTold } from '../../../core/people/claims.ts';
import { numberKey } from '../../../core/numbers/number.ts';
import type { Sql, Tx } from '../../kernel/db/client.ts';
import { openSession, type SessionOpened } from '../open-session.ts';
import { logSecurity } from '../security-log.ts';
import type { Ended } from './provider.ts';
import type { ElsewhereSettings } from './settings.ts';

export type CameIn = ({ ok: true } & SessionOpened) | { ok: false; why: string };

interface Came {
  address: string;
  agent: string;
}

/**
 * Lets in who signed in at the provider: with the roles it gives them now, under the name it knows
 * them by. Somebody new is made.
 */
export async function comeIn(
  sql: Sql,
  settings: ElsewhereSettings,
  { issuer, subject, claims }: Ended,
  { address, agent }: Came
): Promise<CameIn> {
  const refused = async (login: string, why: string): Promise<CameIn> => {
    await logSecurity(sql, { kind: 'sign-in refused', login, address, about: `${issuer}: ${why}` });
    return { ok: false, why };
  };
  const told = personTold(claims, settings);
  if (!told.ok) return refused(subject, told.why);
  const { factorShown, login } = told.person;
  const kept = await sql.begin((tx) => keepPerson(tx, settings, { issuer, subject }, told.person));
  if (!kept.ok) return refused(login, kept.why);
  const actor = { personId: kept.id, login: kept.login };
  await logSecurity(sql, { kind: 'signed in', actor, login: kept.login, address, about: issuer });
  const came = { person: kept.id, address, agent, factorShown, elsewhere: true };
  return { ok: true, ...(await openSession(sql, came)) };
}

type Kept = { ok: true; id: number; login: string } | { ok: false; why: string };

interface Found {
  id: number;
  login: string;
  active: boolean;
  tied: boolean;
  onlyLocal: boolean;
}

/** The person of an identity, tied to it, with the name and roles they have there now. */
async function keepPerson(
  tx: Tx,
  { sameNames }: ElsewhereSettings,
  { issuer, subject }: Pick<Ended, 'issuer' | 'subject'>,
  told: PersonTold
): Promise<Kept> {
  await tx`SELECT pg_advisory_xact_lock(hashtextextended(${`comes in ${issuer}`}, 0))`;
  const person = await findPerson(tx, issuer, subject, told.login);
  if (!person) return makePerson(tx, { issuer, subject }, told);
  if (!person.active) return no(`${told.login} has left here.`);
  if (person.onlyLocal) return no(`${told.login} signs in here with a password only.`);
  if (!person.tied && !sameNames)
    return no(
      `There is somebody ${told.login} here already. Whoever runs Earmark says whether they are the same.`
    );
  if (!person.tied) await tie(tx, issuer, subject, person.id);
  await tx`
    UPDATE person SET name = ${told.name}, roles = ${told.roles} WHERE id = ${person.id}
  `;
  return { ok: true, id: person.id, login: person.login };
}

/** By what was tied before; else by the name. */
async function findPerson(
  tx: Tx,
  issuer: string,
  subject: string,
  login: string
): Promise<Found | undefined> {
  const [person] = await tx<Found[]>`
    SELECT p.id, p.login, p.active, e.subject IS NOT NULL AS tied,
      EXISTS (SELECT FROM access_setting a WHERE a.only_local = p.id) AS "onlyLocal"
    FROM person p
      LEFT JOIN person_elsewhere e
        ON e.person_id = p.id AND e.issuer = ${issuer} AND e.subject = ${subject}
    WHERE e.subject IS NOT NULL OR upper(p.login) = ${numberKey(login)}
    ORDER BY tied DESC
    LIMIT 1
  `;
  return person;
}

async function makePerson(
  tx: Tx,
  { issuer, subject }: Pick<Ended, 'issuer' | 'subject'>,
  { login, name, roles }: PersonTold
): Promise<Kept> {
  const [made] = await tx<{ id: number }[]>`
    INSERT INTO person (login, name, roles) VALUES (${login}, ${name}, ${roles}) RETURNING id
  `;
  await tie(tx, issuer, subject, made!.id);
  return { ok: true, id: made!.id, login };
}

const tie = (tx: Tx, issuer: string, subject: string, person: number) =>
  tx`
    INSERT INTO person_elsewhere (issuer, subject, person_id)
    VALUES (${issuer}, ${subject}, ${person})
  `;

const no = (why: string): { ok: false; why: string } => ({ ok: false, why });
