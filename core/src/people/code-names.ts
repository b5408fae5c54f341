// Languages and countries by name: codes of ISO 639-1 and ISO 3166-1, names from the browser (Unicode CLDR).
import { fold } from './names';

type Coded = 'language' | 'region';

const namesIn = new Map<string, Intl.DisplayNames>();
const names = (locale: string, of: Coded): Intl.DisplayNames => {
  const key = `${locale} ${of}`;
  const known = namesIn.get(key) ?? new Intl.DisplayNames(locale, { type: of, fallback: 'none' });
  namesIn.set(key, known);
  return known;
};

/** What a code is called; the code itself where nobody knows it. @example codeName('de', 'language', 'fi') // 'Finnisch' */
export const codeName = (locale: string, of: Coded, code: string): string => {
  try {
    return names(locale, of).of(code) ?? code;
  } catch {
    return code;
  }
};

const LETTERS = [...'abcdefghijklmnopqrstuvwxyz'];
const PAIRS = LETTERS.flatMap((a) => LETTERS.map((b) => a + b));
// Groups of countries and stand-ins, which have names too.
const NO_COUNTRY = new Set(['EU', 'EZ', 'UN', 'QO', 'XA', 'XB', 'ZZ']);

// Names of old codes are those of new ones: only codes that stand for themselves are offered.
const isOwn = (of: Coded, code: string): boolean =>
  of === 'language'
    ? Intl.getCanonicalLocales(code)[0] === code
    : !NO_COUNTRY.has(code) && new Intl.Locale(`und-${code}`).region === code;

const NAMED = ['en-GB', 'de'] as const;
const codesBy = new Map<Coded, ReadonlyMap<string, string>>();

/** The code of what is called so in one of our languages; null where nothing is. @example codeNamed('region', 'Finnland') // 'FI' */
export const codeNamed = (of: Coded, text: string): string | null => {
  let codes = codesBy.get(of);
  if (!codes) {
    const pairs = NAMED.flatMap((locale) =>
      codeOptions(locale, of).map(({ value, label }) => [fold(label), value] as const),
    );
    codes = new Map(pairs);
    codesBy.set(of, codes);
  }
  return codes.get(fold(text)) ?? null;
};

/** All codes with their names, in the order of the names. */
export const codeOptions = (locale: string, of: Coded): { value: string; label: string }[] =>
  PAIRS.map((pair) => (of === 'region' ? pair.toUpperCase() : pair))
    .filter((code) => names(locale, of).of(code) !== undefined && isOwn(of, code))
    .map((code) => ({ value: code, label: codeName(locale, of, code) }))
    .sort((a, b) => a.label.localeCompare(b.label, locale));
