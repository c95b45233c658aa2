import { describe, expect, it } from 'vitest';
import { allWell, type Member } from './patroni.ts';

const leader: Member = { name: 'b', role: 'leader', state: 'running', timeline: 4 };
const sync: Member = { name: 'a', role: 'sync_standby', state: 'running', timeline: 4, lag: 0 };
const other: Member = { name: 'c', role: 'replica', state: 'running', timeline: 4, lag: 0 };

describe('a cluster is well', () => {
  it('with a primary, a standby that has it all, and a third', () => {
    expect(allWell([sync, leader, other])).toBe(true);
  });

  it.each([
    ['no primary', [sync, { ...leader, role: 'replica' as const }, other]],
    ['nobody who has it all', [{ ...sync, role: 'replica' as const }, leader, other]],
    ['one that is missing', [sync, leader]],
    ['one that is stopped', [sync, leader, { ...other, state: 'stopped' }]],
    ['one on an older time line', [sync, leader, { ...other, timeline: 3 }]],
    ['one nobody knows how far it is', [sync, leader, { ...other, lag: 'unknown' as const }]],
    ['a primary that only starts', [sync, { ...leader, state: 'starting' }, other]]
  ])('and is not with %s', (_, members) => {
    expect(allWell(members)).toBe(false);
  });
});
