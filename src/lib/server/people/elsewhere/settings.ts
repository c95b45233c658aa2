import { z } from 'zod';
import type { ClaimRules } from '../../../core/people/claims.ts';
import { ROLES } from '../../../core/people/rights.ts';

export interface ElsewhereSettings extends ClaimRules {
  issuer: string;
  clientId: string;
  clientSecret: string;
  /** What the button of the sign-in page calls it. */
  name: string;
  /** Whether somebody here and somebody there of one name are the same person. */
  sameNames: boolean;
}

const RoleMap = z.record(z.string().max(200), z.enum(ROLES));

function rolesOf(text: string | undefined): ElsewhereSettings['roles'] {
  if (!text) return {};
  try {
    return RoleMap.parse(JSON.parse(text));
  } catch {
    throw new Error(
      `EARMARK_OIDC_ROLES cannot be read. Give JSON such as {"earmark-quality": "quality"}; roles are ${ROLES.join(', ')}.`
    );
  }
}

/**
 * The identity provider of the settings; null where none is set.
 * @throws where what is set cannot be used, with what mends it
 */
export function elsewhereSettings(
  env: Readonly<Record<string, string | undefined>> = process.env
): ElsewhereSettings | null {
  const { EARMARK_OIDC_ISSUER: issuer, EARMARK_OIDC_CLIENT_ID: clientId } = env;
  if (!issuer) return null;
  if (!clientId || !env.EARMARK_OIDC_CLIENT_SECRET)
    throw new Error(
      'EARMARK_OIDC_ISSUER is set without EARMARK_OIDC_CLIENT_ID and EARMARK_OIDC_CLIENT_SECRET.'
    );
  return {
    issuer,
    clientId,
    clientSecret: env.EARMARK_OIDC_CLIENT_SECRET,
    name: env.EARMARK_OIDC_NAME || new URL(issuer).hostname,
    loginClaim: env.EARMARK_OIDC_LOGIN_CLAIM || 'preferred_username',
    rolesClaim: env.EARMARK_OIDC_ROLES_CLAIM || 'roles',
    roles: rolesOf(env.EARMARK_OIDC_ROLES),
    sameNames: env.EARMARK_OIDC_SAME_NAMES === '1'
  };
}

let known: ElsewhereSettings | null | undefined;

/**
 * Those the application runs with, read once: every page asks for them. What cannot be used is said
 * in the log, and there is then no sign-in but with passwords.
 */
export function ourElsewhere(): ElsewhereSettings | null {
  if (known !== undefined) return known;
  try {
    known = elsewhereSettings();
  } catch (error) {
    console.error((error as Error).message);
    known = null;
  }
  return known;
}
