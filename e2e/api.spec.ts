import { expect, test, type APIRequestContext } from './test.ts';
import { call, fresh, PASSWORD, signIn, TOKEN } from './company.ts';

// The contract of docs/api.md, through HTTP, as a script would use it.
async function smallCompany(request: APIRequestContext) {
  const [lot, unit, place, supplier, customer] = [
    fresh('L'),
    fresh('U'),
    fresh('P'),
    fresh('S'),
    fresh('C')
  ];
  await call(request, 'PUT', `products/${lot}`, {
    name: 'raw',
    unit: 'kg',
    decimals: 3,
    made: false,
    marking: 'lot',
    shelfLifeDays: 30
  });
  await call(request, 'PUT', `products/${unit}`, {
    name: 'unit',
    unit: 'each',
    decimals: 0,
    made: true,
    marking: 'serial'
  });
  await call(request, 'PUT', `places/${place}`, { name: 'dock', site: fresh('SITE') });
  await call(request, 'PUT', `partners/${supplier}`, {
    name: 'Supplier',
    supplier: true,
    customer: false
  });
  await call(request, 'PUT', `partners/${customer}`, {
    name: 'Customer',
    supplier: false,
    customer: true
  });
  return { lot, unit, place, supplier, customer };
}

test('metrics are text as Prometheus reads it, for whoever may read the security log', async ({
  request,
  page
}) => {
  expect((await request.get('/metrics')).status()).toBe(401);
  const reply = await request.get('/metrics', { headers: { authorization: `Bearer ${TOKEN}` } });
  expect(reply.headers()['content-type']).toContain('version=0.0.4');
  const lines = (await reply.text()).split('\n').filter((line) => line && !line.startsWith('#'));
  // A name, labels in braces, a number: the text form of prometheus.io/docs/instrumenting.
  const SAMPLE = /^[a-zA-Z_:][a-zA-Z0-9_:]*(\{[^{}]*\})? (NaN|[+-]?(Inf|[0-9.e+-]+))$/;
  for (const line of lines) expect(line).toMatch(SAMPLE);
  const value = (name: string) =>
    Number(lines.find((line) => line.startsWith(`${name} `))?.split(' ')[1]);
  expect(value('earmark_disk_free_bytes')).toBeGreaterThan(0);
  expect(value('earmark_last_event')).toBeGreaterThan(300);
  expect(value('earmark_orders_waiting')).toBeGreaterThan(0);
  expect(lines.some((line) => line.includes('route="/metrics"'))).toBe(true);
  await signIn(page, 'ines');
  expect((await page.request.get('/metrics')).status()).toBe(403);
});

test('health needs no token; everything else does', async ({ request }) => {
  expect((await request.get('/api/health')).status()).toBe(200);
  expect((await request.get('/api/v1/openapi.json')).status()).toBe(200);
  const refused = await request.get('/api/v1/stock');
  expect(refused.status()).toBe(401);
  expect(refused.headers()['content-type']).toBe('application/problem+json');
  expect(await refused.json()).toMatchObject({ status: 401, errors: [{ code: 'right.missing' }] });
  expect(
    (await request.get('/api/v1/stock', { headers: { authorization: 'Bearer nonsense' } })).status()
  ).toBe(401);
});

test('receive, build, ship and trace, as a script does it', async ({ request }) => {
  const { lot, unit, place, supplier, customer } = await smallCompany(request);
  const receipt = {
    document: 'GR-1',
    supplier,
    lines: [
      { product: lot, place, quantity: '2.5', marks: [{ lot: 'R1', supplierNumber: 'THEIRS' }] }
    ]
  };
  const booked = await call(request, 'POST', 'receipts', receipt, {
    'idempotency-key': `${lot} once`
  });
  expect(booked.status()).toBe(201);
  const body = await booked.json();
  expect(body).toMatchObject({
    event: { kind: 'receive', document: 'GR-1' },
    marks: [
      {
        product: lot,
        kind: 'lot',
        number: 'R1',
        supplierNumber: 'THEIRS',
        state: 'usable',
        onHand: '2.5'
      }
    ]
  });
  expect(body.marks[0].expires).toMatch(/^\d{4}-\d{2}-\d{2}$/);
  const again = await call(request, 'POST', 'receipts', receipt, {
    'idempotency-key': `${lot} once`
  });
  expect(again.status()).toBe(200);
  expect(await again.json()).toEqual(body);

  const built = await call(request, 'POST', 'builds', {
    document: 'B-1',
    place,
    groups: [
      {
        outputs: [{ product: unit, serial: 'S1', quantity: '1' }],
        inputs: [{ product: lot, lot: 'r1', quantity: '0.5' }]
      }
    ]
  });
  expect(built.status()).toBe(201);
  const shipped = await call(request, 'POST', 'shipments', {
    document: 'SH-1',
    customer,
    lines: [{ product: unit, place, marks: [{ serial: 'S1' }] }]
  });
  expect(shipped.status()).toBe(201);

  const down = await (
    await call(request, 'GET', `trace?product=${lot}&lot=R1&direction=downstream`)
  ).json();
  expect(
    down.marks.map((mark: { number: string; level: number; content: string }) => [
      mark.number,
      mark.level,
      mark.content
    ])
  ).toEqual([
    ['R1', 0, '2.5'],
    ['S1', 1, '0.5']
  ]);
  expect(down.links).toMatchObject([
    { type: 'made', from: down.marks[0].id, to: down.marks[1].id }
  ]);
  expect(down.ends.customers).toMatchObject([
    { partner: customer, document: 'SH-1', mark: down.marks[1].id, quantity: '1' }
  ]);
  expect(down.balance).toEqual({
    in: '2.5',
    onHand: '2',
    used: '0.5',
    shipped: '0',
    scrapped: '0',
    corrected: '0',
    open: '0'
  });
  expect(down.events.map((event: { kind: string }) => event.kind)).toEqual([
    'receive',
    'build',
    'ship'
  ]);
  const up = await (
    await call(request, 'GET', `trace?product=${unit}&serial=s1&direction=upstream`)
  ).json();
  expect(up.ends.suppliers).toMatchObject([{ partner: supplier, document: 'GR-1' }]);
  expect(
    (await call(request, 'GET', `trace?product=${unit}&serial=NONE&direction=upstream`)).status()
  ).toBe(404);

  const stock = await (await call(request, 'GET', `stock?product=${lot}`)).json();
  expect(stock.rows).toMatchObject([{ mark: { number: 'R1' }, place, quantity: '2' }]);
  const found = await (await call(request, 'GET', `marks?product=${lot}&lot=R1`)).json();
  expect(found.marks).toHaveLength(1);
});

test('pages of marks and stock follow each other without gap or repeat', async ({ request }) => {
  const seen: number[] = [];
  for (let next: string | undefined = ''; next !== undefined;) {
    const page: { marks: { id: number }[]; next?: string } = await (
      await call(request, 'GET', `marks?product=HEAD-A&limit=17${next ? `&cursor=${next}` : ''}`)
    ).json();
    seen.push(...page.marks.map((mark) => mark.id));
    next = page.next;
  }
  expect(new Set(seen).size).toBe(seen.length);
  expect(seen.length).toBeGreaterThan(100);
});

test('all faults of a booking come at once, with code, path, number and what mends them', async ({
  request
}) => {
  const { lot, place, supplier } = await smallCompany(request);
  const reply = await call(request, 'POST', 'receipts', {
    document: 'GR-2',
    supplier,
    lines: [
      {
        product: lot,
        place,
        quantity: '3',
        marks: [
          { lot: 'A', quantity: '1' },
          { lot: 'B', quantity: '1' }
        ]
      },
      { product: 'NO-SUCH', place, quantity: '1' },
      { product: lot, place: 'NO-PLACE', quantity: '0.0001', marks: [{ lot: 'x'.repeat(15_000) }] }
    ]
  });
  expect(reply.status()).toBe(422);
  expect(reply.headers()['content-type']).toBe('application/problem+json');
  const problem = await reply.json();
  expect(problem).toMatchObject({ type: 'about:blank', status: 422 });
  expect(
    problem.errors.map((error: { code: string; path: string }) => `${error.code} ${error.path}`)
  ).toEqual([
    'quantity.mismatch lines[0].quantity',
    'product.unknown lines[1].product',
    'number.malformed lines[2].marks[0]',
    'place.unknown lines[2].place',
    'quantity.not-whole lines[2].quantity'
  ]);
  for (const error of problem.errors) expect(error.message).toMatch(/\.$/);
});

test('malformed requests are refused in words and tell nothing of the machine', async ({
  request
}) => {
  const send = (data: string | Buffer, headers: Record<string, string> = {}) =>
    request.fetch('/api/v1/receipts', {
      method: 'POST',
      data,
      headers: {
        authorization: `Bearer ${TOKEN}`,
        'content-type': 'application/json',
        'idempotency-key': fresh('K'),
        ...headers
      }
    });
  const cases: [Awaited<ReturnType<typeof send>>, number, string][] = [
    [await send('{"document": '), 400, 'request.malformed'],
    [await send('[1,2,3]'), 400, 'request.malformed'],
    [await send('{"document":"X","supplier":"GANNET","lines":[]}'), 400, 'request.malformed'],
    [
      await send(
        '{"document":"X","supplier":"GANNET","lines":[{"product":"TUBE","place":"QW-C1","quantity":"1","colour":"red"}]}'
      ),
      400,
      'request.malformed'
    ],
    [
      await send(
        '{"document":"X","at":"2999-01-01T00:00:00Z","supplier":"GANNET","lines":[{"product":"TUBE","place":"QW-C1","quantity":"1","marks":[{"lot":"F"}]}]}'
      ),
      400,
      'request.malformed'
    ],
    [
      await send(
        '{"document":"X\\u0000","reference":"a\\u0000b","supplier":"GANNET","lines":[{"product":"TUBE","place":"QW-C1","quantity":"1","marks":[{"lot":"F"}]}]}'
      ),
      422,
      'number.malformed'
    ],
    [await send('{}', { 'content-type': 'text/plain' }), 415, 'request.malformed'],
    [
      await send('{"document":"X","supplier":"GANNET","lines":[]}', { 'idempotency-key': '' }),
      400,
      'key.missing'
    ]
  ];
  for (const [reply, status, code] of cases) {
    expect(reply.status()).toBe(status);
    const text = await reply.text();
    expect(JSON.parse(text).errors[0].code).toBe(code);
    expect(text).not.toMatch(/node_modules|postgres|at .*\.ts|SELECT|stack/i);
  }
  expect((await call(request, 'DELETE', 'marks')).status()).toBe(405);
  expect((await call(request, 'GET', 'no/such/thing')).status()).toBe(404);
});

test('10,000 lines are taken in one booking, 20,001 are not', async ({ request }) => {
  const { unit, place, supplier } = await smallCompany(request);
  const serials = (count: number) => ({
    document: 'BIG',
    supplier,
    lines: [
      {
        product: unit,
        place,
        quantity: String(count),
        marks: Array.from({ length: count }, (_, i) => ({ serial: `BIG-${i}` }))
      }
    ]
  });
  const reply = await call(request, 'POST', 'receipts', serials(10_000));
  expect(reply.status()).toBe(201);
  expect((await reply.json()).marks).toHaveLength(10_000);
  expect((await call(request, 'POST', 'receipts', serials(20_001))).status()).toBe(400);
});

test('roles hold over HTTP, and a cookie without our own pages changes nothing', async ({
  page,
  request
}) => {
  await signIn(page, 'noor');
  const asAuditor = await page.evaluate(async () => {
    const reply = await fetch('/api/v1/receipts', {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'idempotency-key': 'x' },
      body: '{}'
    });
    return { status: reply.status, body: await reply.json() };
  });
  expect(asAuditor).toMatchObject({ status: 403, body: { errors: [{ code: 'right.missing' }] } });
  expect(await page.evaluate(() => fetch('/api/v1/stock').then((reply) => reply.status))).toBe(200);
  const cookies = (await page.context().cookies())
    .map((cookie) => `${cookie.name}=${cookie.value}`)
    .join('; ');
  const forged = await request.post('/api/v1/quality-decisions', {
    headers: { cookie: cookies, origin: 'http://evil.example', 'content-type': 'application/json' },
    data: {}
  });
  expect(forged.status()).toBe(403);
  const [session] = await page.context().cookies();
  expect(session).toMatchObject({ name: 'earmark_session', httpOnly: true, sameSite: 'Lax' });
});

test('security headers stand on every page, and scripts only run with a nonce', async ({
  page
}) => {
  const before = await page.request.get('/sign-in');
  expect(await before.text()).not.toContain('<script');
  await signIn(page, 'wilf');
  const after = await page.request.get('/');
  expect(after.headers()['content-security-policy']).toMatch(/script-src 'self' 'nonce-[^']+'/);
  for (const headers of [before.headers(), after.headers()]) {
    expect(headers['content-security-policy']).toMatch(/script-src 'self'/);
    expect(headers['content-security-policy']).toContain("frame-ancestors 'none'");
    expect(/script-src[^;]*unsafe-inline/.test(headers['content-security-policy']!)).toBe(false);
    expect(headers).toMatchObject({
      'x-content-type-options': 'nosniff',
      'referrer-policy': 'same-origin',
      'x-frame-options': 'DENY'
    });
  }
});

test('what is typed before a page’s scripts have come is kept, and signs in', async ({ page }) => {
  let come = () => {};
  const scripts = new Promise<void>((go) => (come = go));
  await page.route(/_app\/immutable/, async (route) => {
    await scripts;
    await route.continue();
  });
  await page.goto('/sign-in', { waitUntil: 'commit' });
  await page.getByLabel('Name').fill('ines');
  come();
  await page.waitForLoadState('load');
  await expect(page.getByLabel('Name')).toHaveValue('ines');
});

test('signing in: a wrong password says so, an open redirect goes nowhere', async ({ page }) => {
  await page.goto('/sign-in?to=//evil.example/');
  await page.getByLabel('Name').fill('wilf');
  await page.getByLabel('Password').fill('not the password');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('do not match');
  await expect(page.getByLabel('Name')).toHaveValue('wilf');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page).toHaveURL(/localhost:\d+\/$/);
});

test('the API document is OpenAPI 3.1 and names the schemas the routes check by', async ({
  request
}) => {
  const document = await (await request.get('/api/v1/openapi.json')).json();
  expect(document.openapi).toBe('3.1.0');
  expect(Object.keys(document.paths)).toEqual(
    expect.arrayContaining([
      '/products/{code}',
      '/partners/{code}',
      '/places/{code}',
      '/receipts',
      '/builds',
      '/shipments',
      '/marks',
      '/stock',
      '/trace'
    ])
  );
  const { $ref } = document.paths['/receipts'].post.requestBody.content['application/json'].schema;
  expect($ref).toBe('#/components/schemas/Receipt');
  const body = document.components.schemas.Receipt;
  for (const [, name] of JSON.stringify(document).matchAll(/#\/components\/schemas\/(\w+)/g))
    expect(document.components.schemas, name).toHaveProperty(name!);
  expect(body.required).toEqual(['document', 'supplier', 'lines']);
  expect(JSON.stringify(document)).not.toContain('$defs');
});

test('cartons, returns, recalls and other firms’ events over HTTP, as scripts do it', async ({
  request
}) => {
  const code = fresh('HX');
  await call(request, 'PUT', `products/${code}`, {
    name: 'scripted',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'serial'
  });
  await call(request, 'POST', 'receipts', {
    document: `${code}-R`,
    supplier: 'GANNET',
    lines: [
      {
        product: code,
        place: 'QW-A1',
        quantity: '3',
        marks: ['1', '2', '3'].map((n) => ({ serial: `${code}-${n}` }))
      }
    ]
  });
  await call(request, 'PUT', `orders/sales/${code}`, {
    partner: 'SKARROW',
    due: '2026-12-31',
    lines: [{ product: code, quantity: '3' }]
  });

  const key = `carton ${code}`;
  const packed = await call(
    request,
    'POST',
    'packings',
    {
      document: code,
      lines: [
        { product: code, serial: `${code}-1` },
        { product: code, serial: `${code}-2` }
      ]
    },
    { 'idempotency-key': key }
  );
  expect(packed.status()).toBe(201);
  const {
    units: [sscc],
    event
  } = await packed.json();
  expect(event.kind).toBe('pack');
  const again = await call(
    request,
    'POST',
    'packings',
    {
      document: code,
      lines: [
        { product: code, serial: `${code}-1` },
        { product: code, serial: `${code}-2` }
      ]
    },
    { 'idempotency-key': key }
  );
  expect([again.status(), (await again.json()).units]).toEqual([200, [sscc]]);
  expect(await (await call(request, 'GET', `units/${sscc}`)).json()).toMatchObject({
    kind: 'carton',
    order: code,
    contents: [{ quantity: '1' }, { quantity: '1' }]
  });
  expect(
    (
      await (
        await call(request, 'POST', 'shipments', {
          document: code,
          customer: 'SKARROW',
          lines: [{ product: code, marks: [{ serial: `${code}-1` }] }]
        })
      ).json()
    ).errors[0]
  ).toMatchObject({ code: 'balance.open', message: expect.stringContaining(sscc) });
  const shipped = await (
    await call(request, 'POST', 'shipments', { document: code, customer: 'SKARROW', units: [sscc] })
  ).json();
  expect(shipped.marks).toHaveLength(2);
  expect((await call(request, 'GET', 'units/nothing')).status()).toBe(404);
  expect(
    (await call(request, 'POST', 'shipments', { document: code, customer: 'SKARROW' })).status()
  ).toBe(400);
  const label = await call(request, 'GET', `units/${sscc}/label`);
  expect((await label.body()).subarray(0, 5).toString()).toBe('%PDF-');
  const notice = await (await call(request, 'GET', `events/${shipped.event.id}/epcis`)).json();
  expect(notice.epcisBody.eventList.map((one: { bizStep: string }) => one.bizStep)).toEqual([
    'packing',
    'shipping'
  ]);

  const back = await call(request, 'POST', 'returns', {
    document: `${code}-RT`,
    place: 'QW-QUAR',
    lines: [
      { product: code, serial: `${code}-1` },
      { product: code, serial: `${code}-3` }
    ]
  });
  expect(back.status()).toBe(422);
  expect((await back.json()).errors).toMatchObject([
    { code: 'stock.short', path: 'lines[1]', message: expect.stringContaining('was never shipped') }
  ]);
  expect(
    (
      await call(request, 'POST', 'returns', {
        document: `${code}-RT`,
        place: 'QW-QUAR',
        lines: [{ product: code, serial: `${code}-1` }]
      })
    ).status()
  ).toBe(201);
  const {
    marks: [second]
  } = await (await call(request, 'GET', `marks?product=${code}&serial=${code}-2`)).json();

  const opened = await call(request, 'POST', 'recalls', {
    title: 'scripted',
    hazard: 'x',
    mock: true,
    marks: [second.id]
  });
  expect(opened.status()).toBe(201);
  const { number } = await opened.json();
  expect((await call(request, 'PUT', `recalls/${number}/scope`, {})).status()).toBe(200);
  expect(await (await call(request, 'GET', `recalls/${number}`)).json()).toMatchObject({
    mock: true,
    customers: [{ partner: 'SKARROW' }],
    drill: { found: '100', answered: '0', passed: null }
  });
  expect(
    (
      await call(request, 'PUT', `recalls/${number}/answers`, {
        answers: [{ partner: 'SKARROW', mark: second.id, outcome: 'destroyed', quantity: '1' }]
      })
    ).status()
  ).toBe(200);
  expect(await (await call(request, 'GET', `recalls/${number}`)).json()).toMatchObject({
    drill: { answered: '100', passed: true }
  });
  expect(
    (await call(request, 'PUT', `recalls/${number}/signature`, { password: 'x' })).status()
  ).toBe(403);
  expect((await call(request, 'PUT', `recalls/${number}/dance`, {})).status()).toBe(404);

  const document = {
    '@context': 'https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld',
    type: 'EPCISDocument',
    schemaVersion: '2.0',
    creationDate: '2026-01-01T00:00:00Z',
    epcisBody: {
      eventList: [
        {
          type: 'ObjectEvent',
          eventTime: '2026-01-01T00:00:00Z',
          eventTimeZoneOffset: '+00:00',
          action: 'OBSERVE',
          bizStep: 'shipping',
          epcList: [`https://id.earmark.example/product/${code}/serial/${code}-2`]
        }
      ]
    }
  };
  expect((await call(request, 'POST', 'epcis/capture', document)).status()).toBe(201);
  expect([
    (await call(request, 'POST', 'epcis/capture', document)).status(),
    (
      await call(request, 'POST', 'epcis/capture', {
        ...document,
        '@context': 'https://elsewhere.example/'
      })
    ).status()
  ]).toEqual([200, 422]);
  const page = await call(
    request,
    'GET',
    `epcis/events?perPage=1&MATCH_anyEPC=${encodeURIComponent(document.epcisBody.eventList[0]!.epcList[0]!)}`
  );
  expect(page.headers().link).toMatch(/nextPageToken=.*rel="next"/);
  expect((await page.json()).epcisBody.queryResults.resultsBody.eventList).toMatchObject([
    { 'earmark:outside': expect.any(String) }
  ]);
  const past = await (
    await call(
      request,
      'GET',
      `trace?product=${code}&serial=${code}-2&direction=downstream&until=2026-01-01`
    )
  ).json();
  expect([past.balance.in, past.ends.customers]).toEqual(['0', []]);
});

test('what is made new never overwrites what is there; a place that holds goods stays at its site', async ({
  request
}) => {
  const code = fresh('NEW');
  const bodies: [string, object][] = [
    [`products/${code}`, { name: 'first', unit: 'each', decimals: 0, made: false, marking: 'lot' }],
    [`places/${code}`, { name: 'first', site: fresh('SITE') }],
    [`partners/${code}`, { name: 'first', supplier: true, customer: false }],
    [
      `routes/${code}`,
      { name: 'first', stations: [{ code: fresh('ST'), name: 'one' }], products: [] }
    ],
    [
      `numbering-schemes/${code}`,
      { name: 'first', segments: [{ kind: 'counter', width: 6, letters: false }], reset: 'never' }
    ]
  ];
  const onlyNew = { 'if-none-match': '*' };
  for (const [path, body] of bodies) {
    expect((await call(request, 'PUT', path, body, onlyNew)).status(), path).toBe(201);
    const again = await call(
      request,
      'PUT',
      path.toLowerCase(),
      { ...body, name: 'second' },
      onlyNew
    );
    expect(again.status(), path).toBe(412);
    const [fault] = ((await again.json()) as { errors: { code: string; message: string }[] })
      .errors;
    expect(fault!.code).toBe('code.taken');
    expect(fault!.message).toContain('already: first');
  }
  expect((await (await call(request, 'GET', `places/${code}`)).json()) as object).toMatchObject({
    name: 'first'
  });
  const site = { name: 'first', site: fresh('ELSEWHERE') };
  expect((await call(request, 'PUT', `places/${code}`, site)).status()).toBe(200);
  await call(request, 'POST', 'receipts', {
    document: fresh('R'),
    supplier: code,
    lines: [{ product: code, place: code, quantity: '1', marks: [{ lot: 'STAYS', quantity: '1' }] }]
  });
  const moved = await call(request, 'PUT', `places/${code}`, { name: 'x', site: fresh('THIRD') });
  expect(moved.status()).toBe(409);
  expect(((await moved.json()) as { errors: { message: string }[] }).errors[0]!.message).toContain(
    '1 lot or serial lies at'
  );
});

test('the ledger is fed in its order, sealed, and proved', async ({ request }) => {
  const product = fresh('SEAL');
  await call(request, 'PUT', `products/${product}`, {
    ...{ name: 'seal', unit: 'each', decimals: 0, made: false, marking: 'serial' }
  });
  const marks = [{ serial: `${product}-1` }];
  const booked = await call(request, 'POST', 'receipts', {
    document: fresh('DN'),
    supplier: 'PELLWORM',
    lines: [{ product, place: 'DN-BENCH', quantity: '1', marks }]
  });
  const { event } = await booked.json();
  let after: string | undefined;
  let last: { id: number; movements: { number: string }[] } | undefined;
  for (;;) {
    const query = after === undefined ? '' : `&after=${after}`;
    const page = await (await call(request, 'GET', `feed?limit=500${query}`)).json();
    last = page.events.at(-1) ?? last;
    if (page.next === undefined) break;
    after = page.next;
  }
  expect(last).toMatchObject({ id: event.id, movements: [{ number: `${product}-1` }] });
  const proof = await (await call(request, 'GET', `ledger/proof?event=${event.id}`)).json();
  expect(JSON.parse(proof.entry)).toMatchObject({ id: event.id, kind: 'receive' });
  const { head } = await (await call(request, 'GET', 'ledger/checkpoint')).json();
  expect(head.size).toBeGreaterThan(proof.position);
  const none = await call(request, 'GET', 'ledger/proof?event=999999999');
  expect(none.status()).toBe(404);
  expect((await call(request, 'GET', 'feed?after=yesterday')).status()).toBe(400);
});
