/** Those besides English, which everything of ours is written in first. */
export const OTHER_LANGUAGES = ['de', 'fr', 'es'] as const;
export type OtherLanguage = (typeof OTHER_LANGUAGES)[number];

/** Languages our papers and letters to partners are written in. Screens stay English. */
export const LANGUAGES = ['en', ...OTHER_LANGUAGES] as const;
export type Language = (typeof LANGUAGES)[number];

/** What the languages are called on our screens. */
export const LANGUAGE_NAMES: Readonly<Record<Language, string>> = {
  en: 'English',
  de: 'German',
  fr: 'French',
  es: 'Spanish'
};

/** The language a text names, by its code or its name; the text as it is where it names none. */
export function languageNamed(text: string): string {
  const said = text.trim().toLowerCase();
  const named = LANGUAGES.find((one) => LANGUAGE_NAMES[one].toLowerCase() === said);
  return named ?? said;
}
