import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ACTS, signatureFor, SIGNERS, signerOf, type Signer } from '../people/signing.ts';
import { quantity } from '../quantity/quantity.ts';
import { emptyRows, type Rows } from './booking.ts';
import type { EventKind } from './event-kinds.ts';
import { actOf, signatureAsked, signatureFault } from './tell-signature.ts';
import { snapshot } from './testing/snapshot.ts';

const rows = (more: Partial<Rows>): Rows => ({ ...emptyRows(), ...more });
const state = (to: string) => rows({ changes: [{ mark: 1, field: 'state', from: 'held', to }] });
const field = (name: 'number' | 'retest_on') =>
  rows({ changes: [{ mark: 1, field: name, from: 'a', to: 'b' }] });
const known = snapshot();

describe('the act a plan may want signed', () => {
  it.each<[EventKind, Rows, string | null]>([
    ['release', state('usable'), 'release'],
    ['reversal', state('usable'), 'release'],
    ['hold', state('held'), null],
    ['count', rows({}), 'count'],
    ['amendment', field('number'), 'amendment'],
    ['reversal', field('number'), 'amendment'],
    ['amendment', field('retest_on'), null],
    ['receive', field('number'), null],
    ['ship', rows({}), null]
  ])('%s', (kind, given, act) => {
    expect(actOf(known, kind, given)).toBe(act);
  });

  it('is a release where goods leave quarantine, and not where they go there or about in it', () => {
    const [a, b] = [known.places.get('A')!, known.places.get('B')!];
    const places = new Map([
      ['A', { ...a, quarantine: true }],
      ['B', { ...b, quarantine: false }]
    ]);
    const moved = (from: number, to: number) =>
      rows({
        movements: [
          { mark: 1, placeId: from, quantity: quantity('-1') },
          { mark: 1, placeId: to, quantity: quantity('1') }
        ]
      });
    const act = (from: number, to: number) => actOf({ ...known, places }, 'move', moved(from, to));
    expect(act(a.id, b.id)).toBe('release');
    expect(act(b.id, a.id)).toBeNull();
    expect(act(a.id, a.id)).toBeNull();
  });
});

describe('a signature that is asked', () => {
  const signer = fc.constantFrom(...SIGNERS);
  const act = fc.constantFrom(...ACTS);

  it('is the most that one of the plans asks, in whatever order they come', () => {
    const rank = (one: Signer) => SIGNERS.indexOf(one);
    fc.assert(
      fc.property(act, fc.array(fc.option(signer, { nil: undefined })), (what, all) => {
        const plans = all.map((one) => ({ signers: one === undefined ? {} : { [what]: one } }));
        const asked = signerOf(plans, what);
        expect(asked).toBe(signerOf([...plans].reverse(), what));
        expect(all.every((one) => rank(one ?? 'nobody') <= rank(asked))).toBe(true);
        expect(asked === 'nobody' || all.includes(asked)).toBe(true);
      })
    );
  });

  it('is never what was given for another act, and a second person’s never one’s own', () => {
    fc.assert(
      fc.property(act, act, fc.boolean(), signer, (asked, given, second, who) => {
        if (who === 'nobody') return;
        const one = { id: 1, act: given, second };
        const isGood = asked === given && (second || who === 'whoever does it');
        expect(signatureFor({ act: asked, signer: who }, [one])).toBe(isGood ? one : null);
      })
    );
  });

  it('is told with its act, whose it is and the document it is for', () => {
    const asking = snapshot({ plans: { LOT: { signers: { release: 'a second person' } } } });
    const sign = signatureAsked(asking, 'release', state('usable'));
    expect(sign).toEqual({ act: 'release', signer: 'a second person' });
    expect(signatureFault(sign!, 'D-1')).toMatchObject({
      ...{ code: 'signature.missing', number: 'D-1', sign }
    });
    expect(signatureAsked(known, 'release', state('usable'))).toBeNull();
    const [own, others] = [false, true].map(
      (second) => ({ id: 1, act: 'release', second }) as const
    );
    expect(signatureFor(sign!, [own!, others!])).toBe(others);
  });
});
