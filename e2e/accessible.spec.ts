import { axe } from './axe.ts';
import { alive, open, signIn, still } from './company.ts';
import { expect, test, type Page } from './test.ts';

// What a screen says to who does not see it, or sees it in colours of their own: docs/accessibility.md.

/** Of everything that is said to be chosen, what nothing shows. */
const unshown = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const said = "[aria-current]:not([aria-current='false']), [aria-selected='true']";
    return [...document.querySelectorAll(said)]
      .filter((element) => element.checkVisibility())
      .filter((element) => getComputedStyle(element).outlineStyle !== 'solid')
      .map((element) => element.outerHTML.slice(0, 120));
  });

test('what breaks a page is found: a picture without words, grey on grey, a field without a label', async ({
  page
}) => {
  await page.setContent(
    '<html lang="en"><title>x</title><main><h1>x</h1><img src="data:,"><input><p style="color:#aaa">grey</p></main></html>'
  );
  const found = (await axe(page)).map((line) => line.split(':')[0]);
  expect(found.sort()).toEqual(['color-contrast', 'image-alt', 'label']);
});

test('in forced colours everything can be read, and what is chosen is shown', async ({ page }) => {
  await page.emulateMedia({ forcedColors: 'active' });
  await signIn(page, 'wilf');
  for (const screen of ['/', '/receive/PO-2144', '/ship/SO-3322', '/setup/products']) {
    await page.goto(screen);
    await alive(page);
    await still(page);
    // Contrast is what the person's own colours have; axe reads those that were forced away.
    expect(await axe(page, ['color-contrast']), screen).toEqual([]);
    expect(await unshown(page), screen).toEqual([]);
  }
});

test('a screen reader hears the marking bench: its order, its lines, and each field by its row', async ({
  page
}) => {
  await signIn(page, 'wilf');
  await open(page, '/receive/PO-2142');
  await expect(page.getByRole('region', { name: 'Sheet' })).toMatchAriaSnapshot(`
    - region "Sheet":
      - heading "PO-2142 · Gannet Gas & Cylinder" [level=1]
      - combobox "into"
      - textbox "delivery note"
      - tablist "Lines of the order":
        - tab /CYL-33 gas cylinder 33 g serial in lot/ [selected]
      - table "Numbers of CYL-33 gas cylinder 33 g":
        - rowgroup:
          - row:
            - columnheader "Lot"
            - columnheader "Serial"
            - columnheader "Expires"
            - columnheader /^Gross weight, g/
            - columnheader "Verdict"
        - rowgroup:
          - row:
            - cell:
              - textbox "Lot, row 1"
            - cell:
              - textbox "Serial, row 1"
            - cell:
              - textbox "Expires, row 1"
            - cell:
              - textbox "Gross weight, g, row 1"
  `);
  await expect(page.getByRole('complementary', { name: 'What helps decide' })).toMatchAriaSnapshot(`
    - complementary "What helps decide":
      - term: ordered
      - definition: 24 each
      - list "Announced numbers that are missing":
        - listitem: C33-04298
      - button "All 24 are here"
  `);
});

test('a screen reader hears the outline of a trace: each mark with its level, and who has it', async ({
  page
}) => {
  await signIn(page, 'wilf');
  await open(page, '/on-hand');
  const field = page.getByRole('combobox', { name: /^Scan or type/ });
  await field.fill('BOB-2511');
  await field.press('Enter');
  await page.getByRole('link', { name: /Where to/ }).click();
  await page.getByRole('tab', { name: 'Outline' }).click();
  await expect(page.getByRole('region', { name: 'Sheet' })).toMatchAriaSnapshot(`
    - heading "BOB-2511 · dissolving bobbin, lot" [level=1]
    - paragraph: /4 customers/
    - tablist "View":
      - tab "River"
      - tab "Outline" [selected]
      - tab "Table"
    - list:
      - listitem:
        - text: "level 0:"
        - link "BOB-2511"
        - text: /BOB-S dissolving bobbin .* held/
      - listitem:
        - text: "level 1:"
        - link "INF-00348"
      - listitem:
        - text: "level 2:"
        - link "TN-004336"
        - text: /Isle of Marrow Lifeboat Friends, SO-3315/
  `);
});
