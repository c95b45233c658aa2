// Carbon's one sheet has rules for all of its components, 800 kB of them; Earmark uses a few.
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { PurgeCSS } from 'purgecss';

const CARBON = 'node_modules/carbon-components-svelte/src';
/** Classes that a button puts together as it runs: `bx--btn--${kind}`. */
const PUT_TOGETHER = /^bx--(btn|tooltip--align)--/;
const NAMED = /import\s*\{([^}]*)\}\s*from\s*'carbon-components-svelte'/g;
const BESIDE = /from\s*["'](\.[^"']+)["']/g;

const filesUnder = (folder) =>
  readdirSync(folder, { recursive: true }).map((path) => join(folder, path));

const ownScreens = () => filesUnder('src').filter((path) => path.endsWith('.svelte'));

/** Names of Carbon's components that any of our screens uses. */
export function componentsUsed() {
  const lists = ownScreens().flatMap((path) =>
    [...readFileSync(path, 'utf8').matchAll(NAMED)].map(([, list]) => list)
  );
  const names = lists.flatMap((list) => list.split(',').map((name) => name.trim()));
  return [...new Set(names)].filter(Boolean).sort();
}

/** The sources of components, and of all that they are made of. */
export function sourcesOf(components) {
  const all = filesUnder(CARBON).filter((path) => path.endsWith('.svelte'));
  const wanted = new Set(components.map((name) => `${name}.svelte`));
  const found = new Set();
  const follow = (path) => {
    if (found.has(path) || !existsSync(path) || !statSync(path).isFile()) return;
    found.add(path);
    for (const [, beside] of readFileSync(path, 'utf8').matchAll(BESIDE))
      follow(join(dirname(path), beside));
  };
  for (const path of all) if (wanted.has(basename(path))) follow(path);
  return [...found];
}

/**
 * Carbon's sheet as it is sent: without fonts of a CDN, as no request may leave the machine, and
 * without rules for what is on no screen. Its rules for plain elements, paragraphs and tables say,
 * count for our own screens too.
 */
export async function carbonSheet(css) {
  const own = css.replace(/@font-face\s*\{[^}]*\}/g, '');
  const [lean] = await new PurgeCSS().purge({
    content: [...sourcesOf(componentsUsed()), ...ownScreens(), 'src/app.html'],
    css: [{ raw: own }],
    safelist: { standard: [PUT_TOGETHER, 'html', 'body'] },
    keyframes: true
  });
  return lean.css;
}
