import { type SectionName, type Values, preset } from '@gremium/contract';

// Letters that canonical decomposition leaves as they are. The one table: stored search columns are made by it.
const LETTERS: Record<string, string> = {
  ø: 'o',
  æ: 'ae',
  œ: 'oe',
  ß: 'ss',
  ł: 'l',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ħ: 'h',
  ı: 'i',
  ŋ: 'n',
  ŧ: 't',
};

/** A text folded for search: lower case, without accents, letters of other alphabets in plain ones, single spaces. */
export const fold = (text: string): string =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[øæœßłđðþħıŋŧ]/g, (letter) => LETTERS[letter] ?? letter)
    .replace(/[^\p{L}\p{N}@._-]+/gu, ' ')
    .trim();

type Name = Values<'person_name'>;

const words = (...parts: (string | null)[]): string => parts.filter(Boolean).join(' ');

/** The name as people say it: preferred or given, prefix, family. */
export const spokenName = ({ given, preferred, prefix, family }: Name): string =>
  words(preferred ?? given, prefix, family);

/** What lists sort by: the sort name, else family, given, middle. */
export const sortName = ({ sortName: own, given, middle, family }: Name): string =>
  own ?? words(family ?? given, family ? given : null, middle);

/** All parts folded, for search by any of them. */
export const searchName = (name: Name): string =>
  fold(words(name.given, name.middle, name.prefix, name.family, name.birthName, name.preferred));

/** A name of which no part is given. */
export const NO_NAME = preset.section('person_name').nulls as Name;

/** Texts made of a section's values and kept beside them, by which lists search and sort; null gives their names only. */
export const derivedTexts: Partial<Record<SectionName, (values: Name | null) => Record<string, string>>> = {
  person_name: (values) => ({
    search: searchName(values ?? NO_NAME),
    sort: fold(sortName(values ?? NO_NAME)),
  }),
};
