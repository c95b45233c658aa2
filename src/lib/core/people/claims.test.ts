import fc from 'fast-check';
import { expect, test } from 'vitest';
import { personTold, rolesOfClaim } from './claims.ts';
import { ROLES } from './rights.ts';

const rules = {
  ...{ loginClaim: 'preferred_username', rolesClaim: 'groups' },
  roles: { 'earmark-quality': 'quality', Dock: 'receiver' } as const
};
const told = (claims: object) => personTold({ preferred_username: 'kim', ...claims }, rules);

test('roles are what the groups mean, or their own name, each once', () => {
  const groups = ['earmark-quality', 'Dock', 'shipper', 'quality', 'everybody'];
  expect(told({ groups })).toMatchObject({
    ok: true,
    person: { login: 'kim', name: 'kim', roles: ['quality', 'receiver', 'shipper'] }
  });
  expect(told({ groups: 'Dock shipper', name: ' Kim Ode ' })).toMatchObject({
    person: { name: 'Kim Ode', roles: ['receiver', 'shipper'] }
  });
});

test('nobody comes in without a role, or without a name that can be one', () => {
  expect(told({ groups: ['everybody'] })).toMatchObject({ ok: false });
  expect(told({})).toMatchObject({ ok: false });
  for (const preferred_username of ['', '  ', 7, null, 'x'.repeat(101), 'a\u0000b'])
    expect(told({ groups: 'quality', preferred_username })).toMatchObject({ ok: false });
});

test('whatever the claim holds, nothing but roles comes of it', () => {
  const odd = fc.oneof(fc.anything(), fc.array(fc.oneof(fc.anything(), fc.constantFrom(...ROLES))));
  fc.assert(
    fc.property(odd, (value) => {
      const roles = rolesOfClaim(value, rules.roles);
      expect(roles.every((one) => ROLES.includes(one))).toBe(true);
      expect(new Set(roles).size).toBe(roles.length);
    })
  );
  expect(rolesOfClaim(['__proto__', 'constructor', 'toString'], rules.roles)).toEqual([]);
});

// RFC 8176, section 2: `pwd` is a password alone, `mfa` and `otp` are not.
test('a second factor shown there counts, a password alone does not', () => {
  const shown = (amr: unknown) => {
    const answer = told({ groups: 'quality', amr });
    return answer.ok && answer.person.factorShown;
  };
  expect([['pwd'], ['pwd', 'mfa'], ['otp'], undefined, 'mfa'].map(shown)).toEqual([
    ...[false, true, true, false, true]
  ]);
});
