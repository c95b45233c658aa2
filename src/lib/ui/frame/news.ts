import { TOPICS, isTopic, type Topic } from '../../core/topics.ts';

/** Told of a change in what it follows. */
type Changed = () => void;

const followers = new Map<Changed, ReadonlySet<Topic>>();
let source: EventSource | null = null;

/**
 * Follows what others change, for as long as the page is looked at: one line for all of a page, none
 * of a page in the background, which is told everything when it is looked at again.
 * @returns ends it
 */
export function followNews(topics: readonly Topic[], changed: Changed): () => void {
  if (followers.size === 0) document.addEventListener('visibilitychange', look);
  followers.set(changed, new Set(topics));
  connect();
  return () => {
    followers.delete(changed);
    if (followers.size > 0) return;
    document.removeEventListener('visibilitychange', look);
    hangUp();
  };
}

function look(): void {
  if (document.visibilityState === 'hidden') {
    hangUp();
    return;
  }
  connect();
  tell(TOPICS);
}

function connect(): void {
  if (source !== null || document.visibilityState === 'hidden') return;
  const line = new EventSource('/news');
  source = line;
  let wasLost = false;
  line.addEventListener('message', ({ data }) => tell(String(data).split(' ').filter(isTopic)));
  // What was told while the line was dead is not told again.
  line.addEventListener('open', () => {
    if (wasLost) tell(TOPICS);
    wasLost = false;
  });
  line.addEventListener('error', () => {
    wasLost = true;
    // Refused for good: signed out, or too many. The next look tries anew.
    if (line.readyState === EventSource.CLOSED && source === line) source = null;
  });
}

function hangUp(): void {
  source?.close();
  source = null;
}

function tell(topics: readonly Topic[]): void {
  for (const [changed, wanted] of [...followers])
    if (topics.some((topic) => wanted.has(topic))) changed();
}
