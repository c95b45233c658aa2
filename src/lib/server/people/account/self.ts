import type { Actor } from '../../kernel/actor.ts';

/** A person at a screen. */
export type Self = Actor & { sessionId: number };

/** Who looks after their own account; the guard lets nobody through who comes without a session. */
export function selfOf({ actor }: { actor: Actor | null }): Self {
  if (actor?.sessionId === undefined) throw new Error('This route needs a session.');
  return { ...actor, sessionId: actor.sessionId };
}
