import type { Role } from '../../core/people/rights.ts';

/** Who is asking: a person at a screen, or a token that books as a person. */
export interface Actor {
  personId: number;
  login: string;
  name: string;
  roles: readonly Role[];
  via: 'session' | 'token';
  /** The token it comes by; kept with what it books. */
  tokenId?: number;
}
