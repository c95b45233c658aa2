import { newKey } from '../frame/new-key.ts';

/** What another tab of the same person says of a sheet they both show. */
type Says = 'here?' | 'here' | 'kept' | 'booked' | 'gone';

interface Message {
  sheet: string;
  from: string;
  says: Says;
}

/** How a sheet stands in another tab: shown there too, changed there, or booked there. */
export type Elsewhere = 'open' | 'changed' | 'booked' | null;

/**
 * Two tabs of one person with the same sheet tell each other: what is typed in one is kept over what
 * the other shows, and what one books is not there to be booked by the other.
 */
export class OtherTabs {
  elsewhere = $state<Elsewhere>(null);
  private readonly channel = new BroadcastChannel('earmark sheets');
  private readonly me = newKey();
  private readonly there = new Set<string>();

  constructor(private readonly sheet: string) {
    this.channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if (data.sheet === this.sheet && data.from !== this.me) this.hear(data);
    };
    this.say('here?');
  }

  /** The draft was kept here. */
  kept(): void {
    this.say('kept');
  }

  /** The sheet was booked here. */
  booked(): void {
    this.say('booked');
  }

  /** The sheet is shown here no more. */
  close(): void {
    this.say('gone');
    this.channel.close();
  }

  private say(says: Says): void {
    this.channel.postMessage({ sheet: this.sheet, from: this.me, says } satisfies Message);
  }

  private hear({ from, says }: Message): void {
    if (says === 'gone') this.there.delete(from);
    else this.there.add(from);
    if (says === 'here?') this.say('here');
    this.elsewhere = standing(this.elsewhere, says, this.there.size);
  }
}

/** What was changed or booked elsewhere stays so until the sheet is shown anew. */
export function standing(before: Elsewhere, says: Says, tabs: number): Elsewhere {
  if (says === 'booked' || before === 'booked') return 'booked';
  if (says === 'kept' || before === 'changed') return 'changed';
  return tabs > 0 ? 'open' : null;
}
