import { alive, open, signIn } from './company.ts';
import { expect, test, type Page } from './test.ts';

/** Most that a screen may come to before it is usable, for somebody who was never here. */
const MOST_KB = 200;
const MOST_REQUESTS = 25;

interface Asked {
  url: string;
  type: string;
  /** As it came over the line, compressed. */
  bytes: number;
}

/** What a screen asks for when it is opened with nothing kept. */
async function weigh(page: Page, path: string): Promise<Asked[]> {
  const line = await page.context().newCDPSession(page);
  await line.send('Network.enable');
  await line.send('Network.setCacheDisabled', { cacheDisabled: true });
  const asked = new Map<string, Asked>();
  line.on('Network.requestWillBeSent', ({ requestId, request, type = '' }) => {
    asked.set(requestId, { url: request.url, type, bytes: 0 });
  });
  line.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const one = asked.get(requestId);
    if (one) one.bytes = encodedDataLength;
  });
  await page.goto(path);
  await alive(page);
  await line.detach();
  return [...asked.values()];
}

// News come by a stream that stays open; the icon is the browser's own wish.
const isForUse = ({ type, url }: Asked): boolean =>
  type !== 'EventSource' && !url.endsWith('/icon.svg');

for (const [screen, path] of [
  ['Today', '/'],
  ['a sheet', '/receive/PO-2611'],
  ['the trace', '/trace']
] as const)
  test(`${screen} is usable after little script and style, in few requests`, async ({ page }) => {
    await signIn(page, 'wilf');
    await open(page, '/account');
    const asked = (await weigh(page, path)).filter(isForUse);
    const ofCode = asked.filter(({ type }) => ['Script', 'Stylesheet'].includes(type));
    const kB = ofCode.reduce((sum, { bytes }) => sum + bytes, 0) / 1000;
    console.log(`${screen}: ${kB.toFixed(0)} kB of script and style, ${asked.length} requests`);
    // Less would mean that it was not looked at as it comes.
    expect(ofCode.length).toBeGreaterThan(4);
    expect(kB).toBeGreaterThan(50);
    expect(kB).toBeLessThanOrEqual(MOST_KB);
    expect(asked.length).toBeLessThanOrEqual(MOST_REQUESTS);
  });
