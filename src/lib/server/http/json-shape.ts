/** No request of ours is nested deeper than some ten levels. */
const MOST_DEPTH = 40;
/** Members of one object: the lines of a draft are the most there are. */
const MOST_KEYS = 20_000;

const [QUOTE, BACKSLASH, COMMA] = [0x22, 0x5c, 0x2c];
const [OPEN_OBJECT, CLOSE_OBJECT, OPEN_LIST, CLOSE_LIST] = [0x7b, 0x7d, 0x5b, 0x5d];

/**
 * Judges the shape of a JSON text in one pass over its characters, a stretch at a time. Whether it
 * is JSON at all is not judged here.
 */
export class JsonShape {
  /** Members of each object that is open, or −1 of a list. */
  private readonly open: number[] = [];
  private at = 0;

  constructor(private readonly text: string) {}

  get isRead(): boolean {
    return this.at >= this.text.length;
  }

  /**
   * Reads on.
   * @param characters how many at least; a string is read to its end
   * @returns what is wrong with it; null where nothing is so far
   */
  read(characters: number): string | null {
    const { text } = this;
    const end = Math.min(this.at + characters, text.length);
    for (; this.at < end; this.at++) {
      const sign = text.charCodeAt(this.at);
      if (sign === QUOTE) this.at = endOfString(text, this.at);
      else {
        const wrong = this.take(sign);
        if (wrong !== null) return wrong;
      }
    }
    return null;
  }

  /** Takes one sign outside of strings. */
  private take(sign: number): string | null {
    const { open } = this;
    if (sign === COMMA) return this.takeMember();
    if (sign === CLOSE_OBJECT || sign === CLOSE_LIST) open.pop();
    else if (sign === OPEN_OBJECT || sign === OPEN_LIST) {
      open.push(sign === OPEN_LIST ? -1 : 1);
      if (open.length > MOST_DEPTH)
        return `It is nested more than ${MOST_DEPTH} levels deep. Nothing here is.`;
    }
    return null;
  }

  private takeMember(): string | null {
    const { open } = this;
    const members = open.at(-1) ?? -1;
    if (members < 0) return null;
    open[open.length - 1] = members + 1;
    if (members < MOST_KEYS) return null;
    return `An object in it has more than ${MOST_KEYS} members. Nothing here has.`;
  }
}

/** Where the string that begins here ends; the text's length where it does not. */
function endOfString(text: string, start: number): number {
  let end = text.indexOf('"', start + 1);
  while (end !== -1 && isEscaped(text, end)) end = text.indexOf('"', end + 1);
  return end === -1 ? text.length : end;
}

/** Whether an odd number of backslashes stands before it. */
function isEscaped(text: string, at: number): boolean {
  let first = at;
  while (text.charCodeAt(first - 1) === BACKSLASH) first--;
  return (at - first) % 2 === 1;
}
