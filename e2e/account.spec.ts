import { Secret, TOTP } from 'otpauth';
import { alive, call, fresh, open, signIn, signOut } from './company.ts';
import { expect, test, type Page } from './test.ts';

const OWN = 'seven grey herons at noon';

/** Somebody an administrator has set up, and the password they were given. */
async function newPerson(page: Page, roles: string[]): Promise<{ login: string; given: string }> {
  const login = fresh('p').toLowerCase();
  const given = 'correct horse battery';
  const person = { name: 'Robin Larch', roles, active: true, password: given };
  const made = await call(page.request, 'PUT', `people/${login}`, person);
  expect(made.ok(), await made.text()).toBe(true);
  return { login, given };
}
async function signInAs(page: Page, login: string, password: string): Promise<void> {
  await page.context().clearCookies();
  await page.goto('/sign-in');
  await page.getByLabel('Name').fill(login);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
}
/** A person with a password of their own, signed in. */
async function withOwnPassword(page: Page, roles: string[]): Promise<string> {
  const { login, given } = await newPerson(page, roles);
  await signInAs(page, login, given);
  await expect(page.getByText('Somebody else set your password')).toBeVisible();
  await alive(page);
  await page.getByLabel('Present password').fill(given);
  await page.getByLabel('New password', { exact: true }).fill(OWN);
  await page.getByLabel('New password again').fill(OWN);
  await page.getByRole('button', { name: 'Change password' }).click();
  await expect(page.getByRole('heading', { name: /^Today/ })).toBeVisible();
  return login;
}
/** The part of the account page under a heading. */
const part = (page: Page, name: string) => page.getByRole('region', { name, exact: true });

/** What a program for codes shows, some steps of thirty seconds from now. */
const codeOf = (secret: string, stepsAhead = 0): string =>
  new TOTP({ secret: Secret.fromBase32(secret) }).generate({
    timestamp: Date.now() + stepsAhead * 30_000
  });

test('a password somebody else set is changed first, and a weak one is refused with what mends it', async ({
  page
}) => {
  const { login, given } = await newPerson(page, ['receiver']);
  await signInAs(page, login, given);
  await open(page, '/on-hand');
  await expect(page).toHaveURL(/\/account\?to=%2Fon-hand/);
  await page.getByLabel('Present password').fill(given);
  await page.getByLabel('New password', { exact: true }).fill('qwertyuiop123');
  await page.getByLabel('New password again').fill('qwertyuiop123');
  await page.getByRole('button', { name: 'Change password' }).click();
  await expect(page.getByText(/known or easily guessed/)).toBeVisible();
  await expect(page.getByLabel('Present password')).toHaveValue(given);
  await page.getByLabel('New password', { exact: true }).fill(OWN);
  await page.getByLabel('New password again').fill(OWN);
  await page.getByRole('button', { name: 'Change password' }).click();
  await expect(page).toHaveURL(/\/on-hand/);
});

test('time codes: set up from the account page, asked for at sign-in, also over a sheet, and stood in for', async ({
  page
}) => {
  const login = await withOwnPassword(page, ['receiver']);
  await open(page, '/account');
  const factor = part(page, 'Second factor');
  await factor.getByRole('button', { name: 'Set up' }).click();
  await factor.getByLabel('Your password').fill(OWN);
  await factor.getByRole('button', { name: 'Set up time codes' }).click();
  await expect(factor.getByAltText('QR code for your program')).toBeVisible();
  const secret = (await factor.locator('.secret').textContent())!.replace(/\s/g, '');
  await factor.getByLabel('The code it shows now').fill(codeOf(secret));
  await factor.getByRole('button', { name: 'Confirm' }).click();
  await expect(factor.locator('ol li')).toHaveCount(10);
  const codes = await factor.locator('ol li').allTextContents();
  await factor.getByRole('button', { name: 'I have kept them' }).click();
  await expect(factor.getByText('10 are left')).toBeVisible();

  await signOut(page, page.getByRole('main'));
  await signInAs(page, login, OWN);
  await expect(page.getByRole('heading', { name: 'One thing more' })).toBeVisible();
  // Nothing else is open meanwhile.
  await open(page, '/on-hand');
  await expect(page).toHaveURL(/\/sign-in\/second/);
  await page.getByLabel('Code').fill('000000');
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByRole('alert')).toContainText('The code is wrong');
  await page.getByLabel('Code').fill(codeOf(secret, 1));
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page).toHaveURL(/\/on-hand/);

  // The session runs out over a sheet: the dialog asks for the second factor too.
  await open(page, '/account');
  await page.context().clearCookies();
  await part(page, 'Second factor').getByRole('button', { name: 'Make new ones' }).click();
  await part(page, 'Second factor').getByLabel('Your password').fill(OWN);
  await part(page, 'Second factor').getByRole('button', { name: 'Make new codes' }).click();
  const again = page.getByRole('dialog', { name: 'Sign in again' });
  await again.getByLabel('Password', { exact: true }).fill(OWN);
  await again.getByRole('button', { name: 'Sign in' }).click();
  await again.getByLabel(/^Code/).fill(codes[0]!);
  await again.getByRole('button', { name: 'Sign in' }).click();
  await expect(part(page, 'Second factor').locator('ol li').first()).toBeVisible();
});

test('a passkey is made on this device and signs in', async ({ page }) => {
  const login = await withOwnPassword(page, ['receiver']);
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('WebAuthn.enable');
  await devtools.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      ...{ protocol: 'ctap2', transport: 'internal', hasResidentKey: true },
      ...{ hasUserVerification: true, isUserVerified: true, automaticPresenceSimulation: true }
    }
  });
  await open(page, '/account');
  const factor = part(page, 'Second factor');
  await factor.getByRole('button', { name: 'Add' }).click();
  await factor.getByLabel('What you call it').fill('key on my ring');
  await factor.getByLabel('Your password').fill(OWN);
  await factor.getByRole('button', { name: 'Add a passkey' }).click();
  await factor.getByRole('button', { name: 'I have kept them' }).click();
  await expect(factor.getByText('Passkey “key on my ring”')).toBeVisible();

  await signOut(page, page.getByRole('main'));
  await signInAs(page, login, OWN);
  await alive(page);
  await page.getByRole('button', { name: 'Use a passkey' }).click();
  await expect(page.getByRole('heading', { name: /^Today/ })).toBeVisible();
  await open(page, '/account');
  await expect(factor.getByText(/last used/)).toBeVisible();
  // An answer that is sent again was asked for by nobody.
  const replayed = await page.request.post('/api/v1/sign-in/second', {
    data: { passkey: { id: 'x', rawId: 'x', type: 'public-key', response: {} } }
  });
  expect(replayed.status()).toBe(422);
});

test('a device that locks is hidden and refuses; the next of the shift takes it with badge and PIN', async ({
  page
}) => {
  const badge = fresh('BADGE');
  await withOwnPassword(page, ['builder', 'quality']);
  await open(page, '/account');
  const tie = part(page, 'Badge and PIN');
  await tie.getByRole('button', { name: 'Tie a badge' }).click();
  await tie.getByLabel('Badge, scanned or typed').fill(badge);
  await tie.getByLabel('PIN, 6 digits or more').fill('274095');
  await tie.getByLabel('Your password').fill(OWN);
  await tie.getByRole('button', { name: 'Tie this badge' }).click();
  await expect(tie.getByText('A badge is tied to you.')).toBeVisible();

  await page.context().clearCookies();
  await signIn(page, 'ines');
  await open(page, '/move');
  await page.getByRole('button', { name: 'Lock' }).click();
  const lock = page.getByRole('dialog', { name: 'Locked' });
  await expect(lock.getByText(/Ines .* was here last/)).toBeVisible();
  await expect.poll(async () => (await page.request.get('/api/v1/products')).status()).toBe(423);
  await open(page, '/on-hand');
  await expect(page.getByRole('heading', { name: 'Locked' })).toBeVisible();
  await page.getByRole('button', { name: 'With badge and PIN' }).click();
  await page.getByLabel('Badge', { exact: true }).fill(badge);
  await page.keyboard.press('Enter');
  await page.keyboard.type('274095');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/on-hand/);
  const { name, roles } = await (await page.request.get('/api/v1/account')).json();
  expect({ name, roles }).toEqual({ name: 'Robin Larch', roles: ['builder', 'quality'] });
  // Back by badge: nothing that decides.
  const held = await page.request.post('/api/v1/quality-decisions', {
    data: { document: 'H', kind: 'hold', reason: 'x', marks: [] },
    headers: { 'idempotency-key': fresh('k') }
  });
  expect(held.status()).toBe(403);
  await open(page, '/move');
  await page.getByRole('button', { name: 'Lock' }).click();
  await lock.getByLabel('Password of Robin Larch').fill(OWN);
  await lock.getByRole('button', { name: 'Come back' }).click();
  await expect(lock).toBeHidden();
  await expect(page.getByTitle('Your account · Robin Larch: builder, quality')).toBeVisible();
});

test('an administrator demands a second factor of a role, and helps who lost a device', async ({
  page
}) => {
  const login = await withOwnPassword(page, ['shipper']);
  await page.context().clearCookies();
  await signIn(page, 'admin');
  await open(page, '/setup/people');
  const settings = page.getByRole('form', { name: 'How people come in' });
  await settings.getByLabel('shipper').check();
  await settings.getByLabel(/locks after/).fill('0');
  await settings.getByRole('button', { name: 'Keep' }).click();
  await expect(settings.getByRole('status')).toContainText('whole number from 1 to 840');
  await settings.getByLabel(/locks after/).fill('15');
  await settings.getByRole('button', { name: 'Keep' }).click();
  await expect(settings.getByRole('status')).toHaveText('Kept.');

  await signInAs(page, login, OWN);
  await expect(page.getByText('Your role needs a second factor')).toBeVisible();
  await alive(page);
  const factor = part(page, 'Second factor');
  await factor.getByRole('button', { name: 'Set up' }).click();
  await factor.getByLabel('Your password').fill(OWN);
  await factor.getByRole('button', { name: 'Set up time codes' }).click();
  const secret = (await factor.locator('.secret').textContent())!.replace(/\s/g, '');
  await factor.getByLabel('The code it shows now').fill(codeOf(secret));
  await factor.getByRole('button', { name: 'Confirm' }).click();
  await factor.getByRole('button', { name: 'I have kept them' }).click();
  await expect(page.getByRole('heading', { name: /^Today/ })).toBeVisible();

  await page.context().clearCookies();
  await signIn(page, 'admin');
  await open(page, '/setup/people');
  const row = page.getByRole('row', { name: new RegExp(login) });
  await expect(row).toContainText('with a second factor');
  await row.getByRole('link', { name: login }).click();
  await expect(page.getByText('with a password and a second factor.')).toBeVisible();
  await page.getByRole('button', { name: 'Take the second factor away' }).click();
  await expect(page.getByText('with a password.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take the second factor away' })).toBeHidden();
});
