import { expect, test } from './test.ts';
import { alive, call, fresh, signIn } from './company.ts';

type Booked = { event: { id: number }; marks: { id: number }[] };
const booked = async (...asked: Parameters<typeof call>): Promise<Booked> =>
  (await call(...asked)).json();

// A unit's part is swapped and taken back; a receipt is taken back, and what stands in the way leads
// there.
test('a part is swapped at its position, seen in the unit, and the swap is taken back', async ({
  page,
  request
}) => {
  const [head, unit] = [fresh('HEAD'), fresh('UNIT')];
  for (const code of [head, unit])
    await call(request, 'PUT', `products/${code}`, {
      ...{ name: 'of the browser test', unit: 'each', decimals: 0, made: code === unit },
      marking: 'serial'
    });
  await call(request, 'POST', 'receipts', {
    ...{ document: `${head}-R`, supplier: 'GANNET' },
    lines: [
      {
        ...{ product: head, place: 'QW-A1', quantity: '2' },
        marks: [{ serial: `${head}-1` }, { serial: `${head}-2` }]
      }
    ]
  });
  const built = await booked(request, 'POST', 'builds', {
    ...{ document: `${unit}-B`, place: 'QW-L2' },
    groups: [
      {
        outputs: [{ product: unit, serial: `${unit}-1`, quantity: '1' }],
        inputs: [{ product: head, serial: `${head}-1`, quantity: '1', position: 'left' }]
      }
    ]
  });
  const id = built.marks[0]!.id;
  await signIn(page, 'wilf');
  await page.goto(`/marks/${id}`);
  await alive(page);
  await page.getByRole('link', { name: 'Swap parts …' }).click();
  await page.getByLabel(`What becomes of ${head}-1`).selectOption('held');
  await page.getByLabel(`What goes in for ${head}-1`).fill('NO-SUCH');
  await page.getByLabel('Why, kept for ever').fill('weak firing head');
  await page.getByRole('button', { name: 'Swap 1 part' }).click();
  await expect(page.getByRole('alert')).toContainText('There is no serial NO-SUCH');
  await page.getByLabel(`What goes in for ${head}-1`).fill(`${head}-2`);
  await page.getByRole('button', { name: 'Swap 1 part' }).click();
  await page.getByRole('link', { name: `What is in ${unit}-1` }).click();
  await expect(page.getByRole('heading', { name: 'What is in it now' })).toBeVisible();
  await expect(page.getByRole('link', { name: `${head}-2` })).toBeVisible();
  await page.getByRole('link', { name: 'As built' }).click();
  await expect(page.getByRole('link', { name: `${head}-1` })).toBeVisible();

  await page.goto(`/marks/${id}`);
  await page.getByRole('link', { name: /^swap/ }).click();
  await alive(page);
  await page.getByRole('button', { name: 'Take it back …' }).click();
  await page.getByLabel('Reason, kept for ever').fill('the wrong unit');
  await page.getByRole('button', { name: 'Take all of it back' }).click();
  await expect(page.getByText(/This takes back the swap/)).toBeVisible();
  await page.goto(`/marks/${id}/as-built?as=is`);
  await expect(page.getByRole('link', { name: `${head}-1` })).toBeVisible();
});

test('a receipt is taken back once what stands in the way is', async ({ page, request }) => {
  const product = fresh('BACK');
  await call(request, 'PUT', `products/${product}`, {
    ...{ name: 'taken back', unit: 'each', decimals: 0, made: false, marking: 'lot' }
  });
  const receipt = await booked(request, 'POST', 'receipts', {
    ...{ document: `${product}-R`, supplier: 'GANNET' },
    lines: [
      {
        ...{ product, place: 'QW-A1', quantity: '5' },
        marks: [{ lot: `${product}-L`, quantity: '5' }]
      }
    ]
  });
  const loss = await booked(request, 'POST', 'corrections', {
    ...{ document: `${product}-C`, kind: 'loss', reason: 'counted' },
    lines: [{ product, lot: `${product}-L`, place: 'QW-A1', quantity: '2' }]
  });
  await signIn(page, 'wilf');
  await page.goto(`/events/${receipt.event.id}`);
  await alive(page);
  await page.getByRole('button', { name: 'Take it back …' }).click();
  await expect(page.getByRole('alert')).toContainText('the rest has moved on');
  await page.getByRole('link', { name: `Open event ${loss.event.id}` }).click();
  await expect(page.getByRole('heading', { name: /^loss/ })).toBeVisible();
  for (const event of [loss, receipt]) {
    await page.goto(`/events/${event.event.id}`);
    await alive(page);
    await page.getByRole('button', { name: 'Take it back …' }).click();
    await page.getByLabel('Reason, kept for ever').fill('booked by mistake');
    await page.getByRole('button', { name: 'Take all of it back' }).click();
    await expect(page.getByRole('heading', { name: /^reversal/ })).toBeVisible();
  }
});
