import type { Role } from '../../core/people/rights.ts';
import type { SessionWait } from '../../core/people/session-wait.ts';

/** Who is asking: a person at a screen, or a token that books as a person. */
export interface Actor {
  personId: number;
  login: string;
  name: string;
  roles: readonly Role[];
  via: 'session' | 'token';
  /** The token it comes by; kept with what it books. */
  tokenId?: number;
  /** The session it comes by. */
  sessionId?: number;
  /** What the session waits for before it may do anything. */
  wait?: SessionWait | null;
  /** After how many minutes without an act its device locks. */
  lockMinutes?: number;
  /** Whether its person came back by badge and PIN, which sign nothing. */
  quick?: boolean;
}
