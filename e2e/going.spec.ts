import { alive, open, signIn } from './company.ts';
import { expect, test } from './test.ts';

/**
 * Milliseconds from a click to the first frame in which the screen shows that it is on its way, as
 * the page's own clock has it.
 */
const ANSWERED = `new Promise((done) => {
  addEventListener('click', () => {
    const clicked = performance.now();
    const look = () => {
      const bar = document.querySelector('.going');
      if (bar && bar.getBoundingClientRect().width > 0) done(performance.now() - clicked);
      else requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  }, { capture: true, once: true });
})`;

test('a change of screen answers visibly before anything of it has come', async ({ page }) => {
  await signIn(page, 'wilf');
  await open(page, '/');
  const rail = page.getByRole('navigation', { name: 'Screens' });
  const times: number[] = [];
  for (const screen of ['Quality', 'Recall', 'Trace', 'Service', 'Today']) {
    // What it asks for waits until the answer was seen: nothing but the click can have shown it.
    let letGo = () => {};
    const held = new Promise<void>((done) => (letGo = done));
    await page.route('**/__data.json*', async (route) => {
      await held;
      await route.continue();
    });
    const answered = page.evaluate<number>(ANSWERED);
    const link = rail.getByRole('link', { name: screen });
    await link.click();
    times.push(await answered);
    await expect(page.getByRole('main')).toHaveAttribute('aria-busy', 'true');
    await expect(link).toHaveAttribute('aria-current', 'page');
    letGo();
    await expect(page.getByRole('main')).toHaveAttribute('aria-busy', 'false');
    await page.unroute('**/__data.json*');
    await alive(page);
  }
  const said = times.map((time) => time.toFixed(0)).join(', ');
  console.log(`A change of screen answers visibly after ${said} ms (aim 100)`);
  await expect(page.locator('.going')).toHaveCount(0);
});
