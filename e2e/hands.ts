import { scan } from './at-once.ts';
import { alive } from './company.ts';
import type { Page } from './test.ts';

/** How many scans and how many keys a job took; a chord is one key. */
export interface Done {
  scans: number;
  keys: number;
}

/**
 * Two hands at a keyboard, one of them with a scanner; none goes to a mouse. The page's clock must
 * be installed: it stands still while something is scanned, so that no speed matters.
 */
export class Hands {
  readonly done: Done = { scans: 0, keys: 0 };
  constructor(private readonly page: Page) {}

  async press(key: string): Promise<void> {
    this.done.keys++;
    await this.page.keyboard.press(key);
  }

  /** Types by hand into what has the focus. */
  async type(text: string): Promise<void> {
    this.done.keys += text.length;
    await this.page.keyboard.type(text);
  }

  /** Scans, wherever the focus is. */
  async scan(text: string): Promise<void> {
    this.done.scans++;
    await alive(this.page);
    await scan(this.page, text);
  }

  /** Says what is to be done in the scan field, and scans what to; without that, an act of its own. */
  async act(word: string, to?: string): Promise<void> {
    await alive(this.page);
    await this.press('/');
    await this.type(to === undefined ? word : `${word} `);
    if (to === undefined) await this.press('Enter');
    else await this.scan(to);
  }
}
