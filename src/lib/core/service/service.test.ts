import { describe, expect, it } from 'vitest';
import { isOver, JOB_STATES, OPEN_STATES, turnOf, type JobState } from './job-state.ts';
import { sayTurn } from '../papers/say-turn.ts';
import { warrantyOf, warrantyText } from './warranty.ts';

describe('a warranty', () => {
  const until = (began: string, months: number) => warrantyText(warrantyOf(began, months, began));

  it('ends on the same day of its last month, or on that month’s last', () => {
    expect(until('2026-03-12', 24)).toBe('until 2028-03-12');
    // Common practice: a day a month does not have is its last day (ISO 8601 names no other).
    expect(until('2026-08-31', 6)).toBe('until 2027-02-28');
    expect(until('2027-08-31', 6)).toBe('until 2028-02-29');
    expect(until('2028-02-29', 12)).toBe('until 2029-02-28');
    expect(until('2028-02-29', 48)).toBe('until 2032-02-29');
  });

  it('runs to the end of its last day and is over the day after', () => {
    expect(warrantyOf('2024-11-29', 24, '2026-11-29')).toEqual({
      state: 'running',
      until: '2026-11-29'
    });
    expect(warrantyText(warrantyOf('2024-11-29', 24, '2026-11-30'))).toBe('over');
  });

  it('is none where nothing was sold, or none was given', () => {
    expect(warrantyText(warrantyOf(null, 24, '2026-11-29'))).toBe('none');
    expect(warrantyText(warrantyOf('2026-11-29', null, '2026-11-29'))).toBe('none');
  });
});

describe('a job', () => {
  const may = (from: JobState, to: JobState, note = '') => turnOf(from, to, note).ok;

  it('goes to and fro while the unit is here, whatever the order', () => {
    const here = OPEN_STATES.slice(1);
    for (const from of here)
      for (const to of here) expect(may(from, to), `${from} → ${to}`).toBe(from !== to);
  });

  it('is taken in and sent back by a booking, never by a turn', () => {
    for (const from of JOB_STATES) expect(may(from, 'sent back')).toBe(false);
    for (const from of JOB_STATES) expect(may(from, 'waiting for unit')).toBe(false);
    for (const to of OPEN_STATES.slice(1)) expect(may('waiting for unit', to)).toBe(false);
  });

  it('ends with a reason, also one whose unit never came, and is then turned no more', () => {
    expect(may('waiting for unit', 'ended', 'they kept it')).toBe(true);
    expect(may('in work', 'ended')).toBe(false);
    expect(may('in work', 'ended', '  ')).toBe(false);
    for (const from of JOB_STATES.filter(isOver))
      for (const to of JOB_STATES) expect(may(from, to, 'why')).toBe(false);
  });

  it('says every turn to a customer, with the tracking number where there is a page', () => {
    const turn = { number: 'SJ-0001', product: 'TN150', serial: 'TN-1', from: 'Us' };
    for (const state of JOB_STATES) {
      const { subject, body } = sayTurn({ ...turn, state, tracking: null }, 'en');
      expect(subject).toMatch(/^SJ-0001: \w/);
      expect(body).toContain('TN150 TN-1');
      expect(body).not.toContain('Tracking');
    }
    expect(sayTurn({ ...turn, state: 'ready', tracking: 'AAAAA-BBBBB' }, 'en').body).toContain(
      'Tracking number AAAAA-BBBBB.'
    );
  });
});
