import { expect, test as base } from './test.ts';
import { open, PASSWORD, signOut } from './company.ts';
import {
  startProvider,
  type AtProvider
} from '../src/lib/server/people/elsewhere/testing/provider.ts';

// People come in by the company's own accounts: the reference provider, on loopback. It is there
// before the server starts, which is told of it.
const test = base.extend<object, { provider: AtProvider }>({
  provider: [
    // Playwright asks for the braces: by them it knows that the fixture stands on no other.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const provider = await startProvider();
      await use(provider);
      await provider.end();
    },
    { scope: 'worker' }
  ],
  settings: [async ({ provider }, use) => use(provider.env), { scope: 'worker' }]
});

test('somebody signs in with the company’s account, locks, comes back, and signs with a password of their own', async ({
  page,
  context,
  provider
}) => {
  const claims = { sub: 'u-1', preferred_username: 'veda', name: 'Veda Lark' };
  await test.step('without a role there is no way in, and why is said', async () => {
    provider.signsIn({ ...claims, roles: ['visitors'] });
    await page.goto('/sign-in?to=/quality');
    await page.getByRole('link', { name: 'Sign in with Brackwater accounts' }).click();
    await expect(page.getByRole('alert')).toContainText('gave veda no role of Earmark');
    await page.reload();
    await expect(page.getByRole('alert')).toHaveCount(0);
  });

  await test.step('with one, they go on to where they were going', async () => {
    provider.signsIn({ ...claims, roles: ['quality', 'receiver'] });
    await page.goto('/sign-in?to=/quality');
    await page.getByRole('link', { name: 'Sign in with Brackwater accounts' }).click();
    await expect(page).toHaveURL(/\/quality$/);
    await expect(page.getByRole('link', { name: /Veda L/ })).toBeVisible();
  });

  await test.step('a locked screen is opened in a tab of its own', async () => {
    await page.getByRole('button', { name: 'Lock' }).click();
    await expect(page.getByRole('dialog', { name: 'Locked' })).toBeVisible();
    const [other] = await Promise.all([
      context.waitForEvent('page'),
      page.getByRole('link', { name: 'Sign in with Brackwater accounts, in a tab' }).click()
    ]);
    await expect(other.getByRole('heading', { name: /^Today/ })).toBeVisible();
    await other.close();
    await page.bringToFront();
    await page.evaluate(() => window.dispatchEvent(new Event('focus')));
    await expect(page.getByRole('dialog', { name: 'Locked' })).toHaveCount(0);
  });

  await test.step('a first password, to sign with, takes no old one', async () => {
    await open(page, '/account');
    await page.getByLabel('New password', { exact: true }).fill('slate heron turbine');
    await page.getByLabel('New password again').fill('slate heron turbine');
    await page.getByRole('button', { name: 'Set password' }).click();
    await expect(page.getByText('Your password is changed.')).toBeVisible();
    await expect(page.getByLabel('Present password')).toBeVisible();
  });
});

test('passwords are switched off but for one administrator', async ({ page }) => {
  await page.goto('/sign-in');
  await page.getByText('With a password').click();
  await page.getByLabel('Name').fill('admin');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await open(page, '/setup/people');
  await page.getByLabel('With a password comes in').selectOption('admin only');
  await page.getByRole('form', { name: 'How people come in' }).getByRole('button').click();
  await expect(page.getByText('Kept.')).toBeVisible();
  await signOut(page);

  await page.getByText('With the one password that is left').click();
  await page.getByLabel('Name').fill('wilf');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Name and password do not match');
});
