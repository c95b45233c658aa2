import { readNumber } from '../numbers/number.ts';
import { ROLES, type Role } from './rights.ts';

/** What an identity provider says of somebody who signed in there. */
export type Claims = Readonly<Record<string, unknown>>;

export interface ClaimRules {
  /** The claim that has the name people sign in by, and the one that has their roles or groups. */
  loginClaim: string;
  rolesClaim: string;
  /** Which role a value of the roles' claim means; a role's own name where nothing is said. */
  roles: Readonly<Record<string, Role>>;
}

export interface PersonTold {
  login: string;
  name: string;
  roles: Role[];
  /** Whether a second factor was shown there (RFC 8176). */
  factorShown: boolean;
}

/** Ways of showing who one is that are a second factor, or say that there was one: RFC 8176, 2. */
const SECOND_FACTORS = new Set(['mfa', 'otp', 'hwk', 'swk', 'sc', 'fpt', 'face', 'sms', 'tel']);
const LONGEST_LOGIN = 100;
const LONGEST_NAME = 200;

const textOf = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');
const listOf = (value: unknown): unknown[] => {
  if (Array.isArray(value)) return value;
  return typeof value === 'string' ? value.split(/[\s,]+/) : [];
};

/** The roles that values of a claim mean, each once; what means none is passed over. */
export function rolesOfClaim(value: unknown, map: ClaimRules['roles']): Role[] {
  const isRole = (text: unknown): text is Role => (ROLES as readonly unknown[]).includes(text);
  const meant = listOf(value).map((one) =>
    typeof one === 'string' && Object.hasOwn(map, one) ? map[one] : one
  );
  return [...new Set(meant.filter(isRole))];
}

/**
 * Who somebody is here by what the provider says of them.
 * @returns the person, or in a sentence why they may not come in
 */
export function personTold(
  claims: Claims,
  { loginClaim, rolesClaim, roles: map }: ClaimRules
): { ok: true; person: PersonTold } | { ok: false; why: string } {
  const login = textOf(claims[loginClaim]);
  if (!readNumber(login).ok || login.length > LONGEST_LOGIN)
    return no(`It gave no name to sign in by (claim “${loginClaim}”).`);
  const roles = rolesOfClaim(claims[rolesClaim], map);
  if (roles.length === 0) return no(`It gave ${login} no role of Earmark (claim “${rolesClaim}”).`);
  const name = (textOf(claims.name) || login).slice(0, LONGEST_NAME);
  const factorShown = listOf(claims.amr).some((way) => SECOND_FACTORS.has(textOf(way)));
  return { ok: true, person: { login, name, roles, factorShown } };
}

const no = (why: string): { ok: false; why: string } => ({ ok: false, why });
