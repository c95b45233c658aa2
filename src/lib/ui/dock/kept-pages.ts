/** What is not an order under *Ship*, though it stands where orders do. */
const NO_ORDER = new Set(['/ship/backorders']);
/** An order's sheet, its picking and its packing. */
const SHEET = /^\/(receive\/[^/]+|ship\/[^/]+(\/pick|\/pack)?)$/;
/** The lists beside sheets, and what is worked on without an order. */
const ALWAYS = new Set(['/receive', '/ship', '/move', '/put-away']);

/** One of the sheets in hand of an order. */
export const isDockSheet = (path: string): boolean => SHEET.test(path) && !NO_ORDER.has(path);

/** Pages of the dock that a device keeps. */
export const isDockPage = (path: string): boolean => ALWAYS.has(path) || isDockSheet(path);

const DATA = '/__data.json';
/** What a page's own script asks for, for whoever goes from one to the other. */
export const dataOf = (page: string): string => page + DATA;
export const isDockData = (path: string): boolean =>
  path.endsWith(DATA) && isDockPage(path.slice(0, -DATA.length));

/** Sheets that are kept; the one that was opened longest ago goes first. */
export const MOST_KEPT = 24;

/** What a page tells the service worker. */
export type DockMessage = { keep: string } | { locked: boolean } | { forget: true };

/** The looks of the application, for a page that may have none of its files. */
const STYLE = `
body{margin:0;background:#faf7f1;color:#1d2930;font:16px/1.5 "IBM Plex Sans",sans-serif}
header{background:#1d2930;color:#fff;font-size:18px;font-weight:600;padding:12px 24px}
main{max-width:38em;margin:40px auto;padding:24px 28px;background:#fff;border:1px solid #ddd5c7}
h1{font-size:21px;margin:0 0 12px}ul{padding:0;list-style:none}li{padding:8px 0}
a{color:#85520a;font-weight:600}
.act{display:inline-block;padding:9px 18px;border:1px solid #85520a;text-decoration:none}`;

/** Comes back by itself once Earmark answers, so that nobody has to try again and again. */
const COME_BACK = `
const ask = async () => {
  const answer = await fetch('/api/health', { cache: 'no-store' }).catch(() => null);
  if (answer) location.reload();
};
addEventListener('online', ask);
setInterval(ask, 3000);`;

/**
 * What is shown where a page was asked for without a line and is not kept.
 * @param kept paths of pages that are
 */
export function noLinePage(kept: readonly string[], isLocked: boolean): string {
  const items = kept.map((path) => `<li><a href="${path}">${sayPath(path)}</a></li>`).join('');
  const what = isLocked
    ? 'This device is locked. Come back when the line is there again; nothing typed is lost.'
    : `This page is not kept on this device.${items ? ' These are:' : ' It is there again with the line.'}`;
  return `<!doctype html><html lang="en"><meta charset="utf-8">
<meta name="viewport" content="width=device-width"><title>No line · Earmark</title>
<style>${STYLE}</style><header>Earmark</header><main>
<h1>Earmark cannot be reached</h1><p>${what}</p>${isLocked ? '' : `<ul>${items}</ul>`}
<p><a class="act" href="">Try again</a> or leave it open: it comes by itself.</p></main>
<script>${COME_BACK}</script></html>`;
}

/** `/ship/SO-1/pick` as *SO-1, pick*; `/put-away` as *Put away*. */
const sayPath = (path: string): string => {
  const [first = '', document, act] = path.split('/').slice(1);
  if (document !== undefined)
    return escaped(decodeURIComponent(document)) + (act === undefined ? '' : `, ${act}`);
  const words = first.replace('-', ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
};

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);
