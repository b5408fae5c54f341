// A whole name in one cell, split into given and family names.
import { fold } from '../people/names';

// Small words that belong to the family name after them, folded.
const PARTICLES = new Set(
  'af al av bin da das de del della den der di do dos du el ibn la le los san santa ten ter van vom von zu zum zur'.split(
    ' ',
  ),
);

/**
 * The given and the family part of a whole name: before and after a comma the other way round; else the last word is the family
 * name, with the small words before it. One word alone is the family name.
 * @example splitName('van der Berg, Anna') // ['Anna', 'van der Berg']
 */
export const splitName = (text: string): [given: string, family: string] => {
  const [family = '', ...after] = text.split(',').map((part) => part.trim());
  if (after.length > 0) return [after.join(' ').trim(), family];
  const words = text.trim().split(/\s+/).filter(Boolean);
  let at = words.length - 1;
  while (at > 1 && PARTICLES.has(fold(words[at - 1] as string))) at--;
  return [words.slice(0, at).join(' '), words.slice(Math.max(0, at)).join(' ')];
};
