import type { Actor } from '../src/lib/server/kernel/actor.ts';
import type { BenchWorld } from './world.ts';

/** Whoever books in the benchmarks. */
export const actorOf = ({ person }: Pick<BenchWorld, 'person'>): Actor => ({
  personId: person,
  login: 'bench',
  name: 'Bench',
  roles: ['coordinator'],
  via: 'token'
});
