/** A place somebody may choose. */
export interface PlaceToChoose {
  code: string;
  name: string;
  /** Missing where its name says the site. */
  siteName?: string;
}

/** As it is called in a list. */
export const sayPlace = ({ name, siteName }: PlaceToChoose): string =>
  siteName ? `${siteName}, ${name}` : name;

/**
 * The place that is meant by what was typed: its code, what it is called with or without its site,
 * or letters that only one of them has.
 * @returns its code, or what was typed where it is none or may be several: whoever books is told
 */
export function placeMeant(places: readonly PlaceToChoose[], typed: string): string {
  const text = typed.trim().toLowerCase();
  if (text === '') return '';
  const exact = places.find((place) => place.code.toLowerCase() === text);
  if (exact) return exact.code;
  const called = places.filter(
    (place) => sayPlace(place).toLowerCase() === text || place.name.toLowerCase() === text
  );
  const like = places.filter((place) =>
    `${place.code} ${sayPlace(place)}`.toLowerCase().includes(text)
  );
  const [only, ...more] = called.length > 0 ? called : like;
  return only && more.length === 0 ? only.code : typed.trim();
}
