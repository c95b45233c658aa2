import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import bwipjs from 'bwip-js/node';
import { PNG } from 'pngjs';
import { checkDigit } from '../src/lib/core/gs1/check-digit.ts';
import { axe } from './axe.ts';
import { call, fresh, open, signIn } from './company.ts';
import { expect, test as base, type Page } from './test.ts';

// A phone's camera: symbols drawn by another library than the one that reads them, shown to the
// browser as a picture and as the camera's own video.

const draw = (bcid: string, text: string): Promise<Buffer> =>
  bwipjs.toBuffer({ bcid, text, scale: 6, padding: 12, backgroundcolor: 'ffffff' });

/** A video of one picture, as a camera of 640 × 480 would see it (YUV4MPEG2, grey). */
function videoOf(picture: Buffer): string {
  const [width, height] = [640, 480];
  const shown = PNG.sync.read(picture);
  const luma = Buffer.alloc(width * height, 235);
  const [left, top] = [(width - shown.width) >> 1, (height - shown.height) >> 1];
  for (let y = 0; y < shown.height; y++)
    for (let x = 0; x < shown.width; x++)
      luma[(y + top) * width + x + left] = shown.data[(y * shown.width + x) * 4]!;
  const chroma = Buffer.alloc((width * height) / 2, 128);
  const file = join(mkdtempSync(join(tmpdir(), 'earmark-video-')), 'symbol.y4m');
  const head = Buffer.from(`YUV4MPEG2 W${width} H${height} F10:1 Ip A1:1 C420\n`);
  const frame = Buffer.concat([Buffer.from('FRAME\n'), luma, chroma]);
  writeFileSync(file, Buffer.concat([head, frame, frame]));
  return file;
}

/** The demo's bobbin (demo/company.ts), in the range GS1 keeps for examples. */
const BOBBIN = `0952${'100040'.padStart(9, '0')}`;
const GTIN = BOBBIN + checkDigit(BOBBIN);
const label = (lot: string): Promise<Buffer> =>
  draw('gs1datamatrix', `(01)${GTIN}(17)281231(10)${lot}`);
const video = videoOf(await label('BOB-2511'));

/** Nobody is there to answer the browser's question: it is answered as it was started. */
const ANSWER = '--use-fake-ui-for-media-stream';
const test = base.extend<{ refused: Page }>({
  // A page of a browser that does not let it use the camera.
  refused: async ({ playwright, launchOptions, baseURL }, use) => {
    const args = [...launchOptions.args!, `${ANSWER}=deny`];
    const browser = await playwright.chromium.launch({ ...launchOptions, args });
    await use(await browser.newPage({ baseURL: baseURL! }));
    await browser.close();
  }
});

test.use({
  launchOptions: async ({ launchOptions }, use) => {
    const args = [
      ...(launchOptions.args ?? []),
      ANSWER,
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${video}`
    ];
    await use({ ...launchOptions, args });
  }
});

const camera = (page: Page) => page.getByRole('complementary', { name: 'Camera' });
const takeOut = (page: Page) => page.getByRole('button', { name: 'Scan by camera' }).click();
const show = (page: Page, buffer: Buffer, name = 'label.png') =>
  camera(page).locator('input[type=file]').setInputFiles({ name, mimeType: 'image/png', buffer });

/** Waits until the camera's video has shown so many frames more: it was looked at meanwhile. */
const looksTaken = (page: Page, frames: number): Promise<void> =>
  camera(page)
    .locator('video')
    .evaluate(
      (video: HTMLVideoElement, left) =>
        new Promise<void>((done) => {
          const next = () => (--left < 0 ? done() : video.requestVideoFrameCallback(next));
          next();
        }),
      frames
    );

test('the camera reads a label and finds what it is of, once for as long as it is in view', async ({
  page
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, 'wilf');
  await open(page, '/on-hand');
  await takeOut(page);
  await expect(page).toHaveURL(/\/marks\/\d+/);
  await expect(page).toHaveTitle(/BOB-2511/);
  const said = `Scanned 01${GTIN}1728123110BOB-2511`;
  await expect(camera(page).getByRole('status')).toHaveText(said);
  // The label lies before it still, and does not lead away again.
  await page.goBack();
  await expect(page).toHaveURL(/\/on-hand/);
  await looksTaken(page, 10);
  await expect(page).toHaveURL(/\/on-hand/);
  await camera(page).getByRole('button', { name: 'Put the camera away' }).click();
  await expect(camera(page)).toBeHidden();
});

test('a picture of a label is a scan on the sheet that is open, and one without is said', async ({
  refused: page,
  request
}) => {
  const number = fresh('PO');
  const lines = [{ product: 'BOB-S', quantity: '40' }];
  const order = { partner: 'GANNET', due: '2026-11-23', lines };
  expect((await call(request, 'PUT', `orders/purchase/${number}`, order)).status()).toBe(201);
  await signIn(page, 'wilf');
  await open(page, `/receive/${number}`);
  await takeOut(page);
  await expect(camera(page).getByRole('status')).toContainText('Allow it beside the address');
  const lot = fresh('LOT');
  await show(page, await label(lot));
  await expect(page.getByLabel('Lot, row 1')).toHaveValue(lot);
  await expect(page.getByLabel('Expires, row 1')).toHaveValue('31 Dec 2028');

  expect(await axe(page)).toEqual([]);
  await show(page, PNG.sync.write(new PNG({ width: 40, height: 40 })), 'nothing.png');
  await expect(camera(page).getByRole('status')).toContainText('No symbol can be read');
  await show(page, Buffer.from('no picture at all'), 'notes.png');
  await expect(camera(page).getByRole('status')).toContainText('notes.png is no picture');

  // Other symbols a supplier may print: the same goods, another carrier.
  for (const [row, carrier] of [
    [2, 'gs1-128'],
    [3, 'gs1qrcode']
  ] as const) {
    const another = fresh('LOT');
    await show(page, await draw(carrier, `(01)${GTIN}(10)${another}`));
    await expect(page.getByLabel(`Lot, row ${row}`)).toHaveValue(another);
  }
});

test('a device tells by sound whether a scan was taken, where that is wished', async ({
  refused: page
}) => {
  // What would be heard: the pitch of each tone that is played.
  await page.addInitScript(() => {
    const heard: number[] = [];
    Object.assign(window, { heard });
    const start = OscillatorNode.prototype.start;
    OscillatorNode.prototype.start = function (this: OscillatorNode, when?: number) {
      heard.push(this.frequency.value);
      start.call(this, when);
    };
  });
  const heard = () => page.evaluate(() => (window as unknown as { heard: number[] }).heard);
  await signIn(page, 'wilf');
  await open(page, '/on-hand');
  await takeOut(page);
  await camera(page).getByLabel('sound').check();
  await camera(page).getByRole('button', { name: 'Put the camera away' }).click();

  const field = page.getByRole('combobox', { name: /^Scan or type/ });
  await field.fill('NO-SUCH-THING-7');
  await field.press('Enter');
  await expect(page.getByText('Nothing is known as')).toBeVisible();
  expect(await heard()).toEqual([220, 220]);
  await field.fill('BOB-2533');
  await field.press('Enter');
  await expect(page).toHaveTitle(/BOB-2533/);
  expect(await heard()).toEqual([220, 220, 1760]);
});
