import { expect, test } from './test.ts';
import { alive, call, fresh, PASSWORD, signIn, takenBy } from './company.ts';

const later = (days: number): string =>
  new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);

// What a customer wishes binds: a lot that runs too short goes only with a second person, whose word
// the shipment keeps; what is held meanwhile is no stop of the pick list any more.
test('a lot too short for its customer is promised and shipped by the word of a second person', async ({
  page,
  request
}) => {
  const [code, plan, customer, so] = ['WI', 'WIPLAN', 'WICUS', 'WISO'].map(fresh) as [
    string,
    string,
    string,
    string
  ];
  const [short, long] = [`${code}-SHORT`, `${code}-LONG`];
  const taken = takenBy(request);

  await test.step('a plan that wants a second person, and a customer who wishes a year to run', async () => {
    await signIn(page, 'wilf');
    const body = await planBody();
    await taken('PUT', `marking-plans/${plan}`, {
      ...body,
      name: 'for the careful',
      answers: { ...body.answers, 'life too short': 'second person' }
    });
    await taken('PUT', `products/${code}`, {
      ...{ name: 'careful goods', unit: 'each', decimals: 0, made: false, plan }
    });
    await taken('PUT', `partners/${customer}`, { name: 'Careful Customer', customer: true });
    await taken('PUT', `partners/${customer}/wishes`, {
      wishes: [{ product: code, leastDays: 365, leastShare: null }]
    });
    await taken('POST', 'receipts', {
      ...{ document: `${code}-R`, supplier: 'GANNET' },
      lines: [
        {
          ...{ product: code, place: 'QW-A1', quantity: '10' },
          marks: [
            { lot: short, quantity: '5', expires: later(100) },
            { lot: long, quantity: '5', expires: later(900) }
          ]
        }
      ]
    });
    await taken('PUT', `orders/sales/${so}`, {
      ...{ partner: customer, due: later(3) },
      lines: [{ product: code, quantity: '7' }]
    });
  });

  /** The plan of a product of the demo, as it is kept. */
  async function planBody(): Promise<{ answers: Record<string, string> }> {
    const order = await (await call(request, 'GET', 'orders/sales/SO-3325')).json();
    return order.lines[0].plan;
  }

  await test.step('the proposal leaves it out; taken all the same, it waits for a second person', async () => {
    await page.goto(`/ship/${so}/choose`);
    await alive(page);
    await expect(page.getByText('At least 365 days to run.')).toBeVisible();
    await page.getByLabel(`Take of ${short}`).fill('2');
    await page.getByRole('button', { name: 'Promise 2 to this order' }).click();
    const second = page.getByRole('group', { name: 'A second person approves' });
    await expect(second).toContainText(`Lot ${short} of ${code} runs 100 days more`);
    await second.getByLabel('Their name to sign in').fill('wilf');
    await second.getByLabel('Their password').fill(PASSWORD);
    await second.getByLabel('Why it may go on, kept for ever').fill('Used up within the week');
    await second.getByRole('button', { name: 'Approve 1 row' }).click();
    await expect(second.getByRole('alert')).toContainText('Another person must approve it');
    await second.getByLabel('Their name to sign in').fill('marit');
    await second.getByLabel('Their password').fill(PASSWORD);
    await second.getByLabel('Their password').press('Enter');
    await expect(page.getByText(`✓ 2 marks promised to ${so}.`)).toBeVisible();
  });

  await test.step('on the phone, what is held meanwhile is no stop any more', async () => {
    await page.getByRole('button', { name: 'Make the pick list' }).click();
    await expect(page.getByText('0 of 2', { exact: true })).toBeVisible();
    await taken('POST', 'quality-decisions', {
      ...{ document: `${code}-Q`, kind: 'hold', reason: 'looked at again' },
      marks: [{ product: code, lot: long }]
    });
    await page.reload();
    await alive(page);
    await expect(page.getByText('0 of 1', { exact: true })).toBeVisible();
    await expect(page.getByLabel('No stops any more')).toContainText(`${long} ${code} is held`);
    await page.getByLabel('Scan a lot or serial').fill(short);
    await page.getByLabel('Scan a lot or serial').press('Enter');
    await expect(page.getByText('1 of 1', { exact: true })).toBeVisible();
  });

  await test.step('it is packed and shipped without being asked again; the event names who approved', async () => {
    await page.goto(`/ship/${so}/pack`);
    await alive(page);
    await page.getByRole('button', { name: `Pack ${short}` }).click();
    await expect(page.getByText(`${short} packed.`)).toBeVisible();
    await page.getByRole('button', { name: /^Ship / }).click();
    await expect(page.getByText('Shipped on')).toBeVisible();
    const marks = await (await call(request, 'GET', `marks?product=${code}&lot=${short}`)).json();
    await page.goto(`/marks/${marks.marks[0].id}`);
    await alive(page);
    await page
      .getByRole('link', { name: /Shipped|ship/ })
      .first()
      .click();
    await expect(page.getByText('“Used up within the week”')).toBeVisible();
    await expect(page.getByText(/approved by Marit/)).toBeVisible();
  });
});
