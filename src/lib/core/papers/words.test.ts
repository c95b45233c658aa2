import { describe, expect, it } from 'vitest';
import { LANGUAGES, LANGUAGE_NAMES, languageNamed, OTHER_LANGUAGES } from './language.ts';
import { sayDayIn, sayInstantIn, sayNumberIn } from './say-in.ts';
import { sayTurn } from './say-turn.ts';
import { wordsIn } from './words.ts';

/** Every text of a language with where it stands; a phrase is said of 2, and of `x` as words. */
function texts(words: object, at = ''): [where: string, text: string][] {
  return Object.entries(words).flatMap(([key, value]): [string, string][] => {
    const where = `${at}/${key}`;
    if (typeof value === 'string') return [[where, value]];
    if (typeof value !== 'function') return texts(value as object, where);
    const given = key === 'or' ? [['x', 'x']] : [2, 2, 2];
    return [[where, (value as (...args: unknown[]) => string)(...given)]];
  });
}

describe('what papers say to partners', () => {
  it('is said whole in every language', () => {
    const english = texts(wordsIn('en'));
    for (const language of OTHER_LANGUAGES) {
      const said = texts(wordsIn(language));
      expect(said.map(([where]) => where).sort()).toEqual(english.map(([where]) => where).sort());
      for (const [where, text] of said) expect(`${where} ${text.trim()}`).not.toBe(`${where} `);
    }
  });

  it('is another text than the English where it is a sentence', () => {
    const english = new Map(texts(wordsIn('en')));
    for (const language of OTHER_LANGUAGES)
      for (const [where, text] of texts(wordsIn(language)))
        if (text.split(' ').length > 3)
          expect(`${language}${where} ${text}`).not.toBe(
            `${language}${where} ${english.get(where)}`
          );
  });

  it('takes in all that is given to it: nothing a phrase is told is left unsaid', () => {
    const told = ['ONE', 'TWO'];
    for (const language of LANGUAGES) {
      const { by, claim, delivery, job, certificate, turn } = wordsIn(language);
      for (const phrase of [by, claim.received, delivery.takenOver, job.serial, certificate.spec])
        for (const one of told)
          expect((phrase as (...args: string[]) => string)(...told)).toContain(one);
      expect(turn.says('ONE', 'TWO', 'THREE')).toMatch(/ONE.*TWO.*THREE/);
    }
  });

  it('counts one as one; in French nought is one too', () => {
    expect(LANGUAGES.map((one) => wordsIn(one).lines(1))).toEqual([
      ...['1 line', '1 Zeile', '1 ligne', '1 línea']
    ]);
    expect(LANGUAGES.map((one) => wordsIn(one).lines(0))).toEqual([
      ...['0 lines', '0 Zeilen', '0 ligne', '0 líneas']
    ]);
  });
});

describe('days and numbers in a language', () => {
  it('are written as its readers write them', () => {
    // Names of months: Unicode CLDR, which the runtime's Intl brings.
    expect(LANGUAGES.map((one) => sayDayIn('2027-03-12', one))).toEqual([
      ...['12 Mar 2027', '12. März 2027', '12 mars 2027', '12 mar 2027']
    ]);
    expect(LANGUAGES.map((one) => sayNumberIn('0.25', one))).toEqual([
      ...['0.25', '0,25', '0,25', '0,25']
    ]);
    const at = new Date('2027-03-12T23:30:00Z');
    expect(sayInstantIn(at, 'Europe/Berlin', 'de')).toBe('13. März 2027, 00:30');
  });

  it('leave alone what is no plain decimal', () => {
    for (const text of ['1.2.3', 'v1.5', '12', 'tight']) expect(sayNumberIn(text, 'de')).toBe(text);
    expect(sayNumberIn('-1.5', 'fr')).toBe('-1,5');
  });
});

describe('a language', () => {
  it('is named by its code or its English name', () => {
    for (const one of LANGUAGES) {
      expect(languageNamed(` ${one.toUpperCase()}`)).toBe(one);
      expect(languageNamed(LANGUAGE_NAMES[one])).toBe(one);
    }
    expect(languageNamed('Latin')).toBe('latin');
  });
});

describe('a message of a turn', () => {
  it('says it in the language of its customer', () => {
    const turn = { number: 'SV-1', product: 'TN150', serial: 'TN-9', from: 'Fathom' };
    const { subject, body } = sayTurn({ ...turn, state: 'ready', tracking: 'AAAAA-BBBBB' }, 'de');
    expect(subject).toBe('SV-1: es ist fertig');
    expect(body).toBe(
      'Zu Ihrem Gerät TN150 TN-9, unser Auftrag SV-1: es ist fertig.\n\nNummer zur Nachverfolgung: AAAAA-BBBBB.\n\nFathom'
    );
  });
});
