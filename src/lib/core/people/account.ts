import type { Role } from './rights.ts';

/** What a person has beside their password. */
export interface Factors {
  timeCode: boolean;
  passkeys: number;
  /** Recovery codes that are left. */
  recovery: number;
}

/** Somewhere a person is signed in. Instants are RFC 3339. */
export interface SessionRecord {
  id: number;
  /** Whether it is the one that asks. */
  here: boolean;
  since: string;
  lastSeen: string;
  until: string;
  address: string;
  /** What the browser says it is. */
  agent: string;
}

export interface PasskeyRecord {
  id: number;
  name: string;
  since: string;
  lastUsed: string | null;
}

export interface TokenRecord {
  id: number;
  name: string;
  roles: Role[];
  created: string;
  madeBy: string | null;
  /** The last day it is good for; null of one that is set at each start. */
  until: string | null;
  lastUsed: string | null;
  revoked: boolean;
}

/** All a person sees of their own account. */
export interface Account {
  login: string;
  name: string;
  roles: readonly Role[];
  /** Whether they have a password here; who comes by an identity provider may have none. */
  hasPassword: boolean;
  /** When they set their password; null of one that came with the account. */
  passwordSince: string | null;
  factors: Factors;
  passkeys: PasskeyRecord[];
  badge: boolean;
  sessions: SessionRecord[];
  tokens: TokenRecord[];
}
