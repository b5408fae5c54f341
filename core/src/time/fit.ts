// How well a text fits what is looked for: the order in which things are found.

/** 0 an exact code or number, 1 it begins the name, 2 it begins words of it, 3 words beside it, 4 it stands anywhere. */
export type Fit = 0 | 1 | 2 | 3 | 4;
/** All of them, the best first. */
export const FITS: readonly Fit[] = [0, 1, 2, 3, 4];

// Parts of words are words: hyphens, points and underlines part them.
const parted = (text: string): string => ` ${text.replace(/[-._\n]/g, ' ')}`;

/** Whether each word begins one of the words of a text; all folded. */
export const beginsWords = (words: readonly string[], text: string): boolean => {
  const plain = parted(text);
  return words.every((word) => plain.includes(parted(word)));
};

/**
 * The fit of words to a thing that they are found in: its name (the beginning of which counts most), its code (of which
 * the part after the last hyphen does as well), and what it is told apart by (`beside`); all folded.
 */
export const fitOf = (
  words: readonly string[],
  { name, code, beside = '' }: { name: string; code: string; beside?: string },
): Fit => {
  const text = words.join(' ');
  if (text === code || code.endsWith(`-${text}`)) return 0;
  if (name.startsWith(text)) return 1;
  if (beginsWords(words, name)) return 2;
  return beginsWords(words, `${name} ${beside} ${code}`) ? 3 : 4;
};
