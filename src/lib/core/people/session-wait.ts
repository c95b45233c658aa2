import type { Role } from './rights.ts';

/**
 * What a session waits for before it may do anything else: the second factor of its person, a
 * password of their own, a second factor to be set up, or somebody coming back to the device.
 */
export const SESSION_WAITS = [
  'second factor',
  'new password',
  'factor set-up',
  'unlocking'
] as const;
export type SessionWait = (typeof SESSION_WAITS)[number];

/** What is known of a session and its person. */
export interface SessionFacts {
  roles: readonly Role[];
  /** Whether the person has a second factor, and whether it was shown in this session. */
  hasFactor: boolean;
  factorShown: boolean;
  /** Whether somebody else set the password and it was not changed since. */
  othersPassword: boolean;
  locked: boolean;
  /** Roles of which a second factor is demanded. */
  factorRoles: readonly Role[];
}

/** What a session waits for, the first of it first; null where it may go on. */
export function waitOf(facts: SessionFacts): SessionWait | null {
  if (facts.hasFactor && !facts.factorShown) return 'second factor';
  if (facts.locked) return 'unlocking';
  if (facts.othersPassword) return 'new password';
  const isDemanded = facts.roles.some((role) => facts.factorRoles.includes(role));
  // Shown without one of its own here: it was shown to an identity provider.
  return isDemanded && !facts.hasFactor && !facts.factorShown ? 'factor set-up' : null;
}

/** The roles of the floor and the dock. */
const QUICK_ROLES: readonly Role[] = ['receiver', 'builder', 'shipper', 'service'];

/**
 * Roles somebody has who came back to a device by badge and PIN: those of the floor and the dock.
 * What decides, approves or changes rules takes a password. A coordinator does all that these do;
 * other roles have nothing that a PIN is enough for.
 */
export const quickRoles = (roles: readonly Role[]): Role[] =>
  QUICK_ROLES.filter((role) => roles.includes(role) || roles.includes('coordinator'));
