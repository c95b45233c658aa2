import { expect, test } from 'vitest';
import { sayAgent } from './say-agent.ts';

// Forms of User-Agent as browsers send them (common practice, from memory).
test.each([
  [
    'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/130.0.0.0 Safari/537.36',
    'Chromium on Linux'
  ],
  [
    'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/130.0.0.0 Safari/537.36 Edg/130.0.0.0',
    'Edge on Windows'
  ],
  ['Mozilla/5.0 (Android 14; Mobile; rv:130.0) Gecko/130.0 Firefox/130.0', 'Firefox on Android'],
  [
    'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1.15 Version/18.0 Mobile/15E148 Safari/604.1',
    'Safari on iOS'
  ],
  ['curl/8.5.0', 'A program'],
  ['', 'A browser']
])('%s', (agent, says) => expect(sayAgent(agent)).toBe(says));
