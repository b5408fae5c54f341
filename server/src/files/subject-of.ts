// What a file is about: said when it was taken in, else told by its headings, and by its name where those fit several.
import { type SectionName, type Viewer, plainSubjects, may } from '@gremium/contract';
import { headingKey, isKnownHeading } from '@gremium/core';
import type { Place } from '../time/act';
import { headingsOf, ownLabels, plainSection, subjectLabel } from './plain-subjects';

/** What is said of a file whose headings tell it. */
export const ANY = 'any';

/** Subjects a file can be about, given what was said of it. */
export const subjects = async ({ pool, catalogues }: Place, said: string, viewer: Viewer) => {
  const catalogue = await catalogues.now(pool);
  const own = await ownLabels(pool, catalogue);
  const mayKeep = (name: SectionName) => may(viewer).edit(name);
  const plain =
    said === ANY ? plainSubjects(catalogue).filter(mayKeep) : said === 'people' ? [] : [said as SectionName];
  const named = new Map(
    plain.map((name) => [name as string, headingsOf(plainSection(catalogue, name, viewer), own)]),
  );

  const isCalled = (fileName: string, subject: string): boolean => {
    const file = ` ${headingKey(fileName.replace(/\.[a-z]{3,4}$/i, ''))} `;
    const names = [
      subject,
      ...(['en', 'de'] as const).map((language) => subjectLabel(subject, language, own)),
    ];
    return names.some((name) => file.includes(` ${headingKey(name)} `));
  };
  // how many of its headings a subject knows; what it must have and has not speaks against it
  const fit = (subject: string, keys: readonly string[]): number => {
    const names = named.get(subject);
    if (!names) return keys.filter(isKnownHeading).length;
    const found = new Set(keys.flatMap((key) => names.get(key) ?? []));
    return found.size;
  };

  return {
    /** Headings that are known (keys); null where they are those of people. */
    known: (): string[] | null =>
      said === 'people' ? null : [...new Set([...named.values()].flatMap((names) => [...names.keys()]))],
    /** Names of columns of a subject by headings (keys); null for people. */
    names: (subject: string): ReadonlyMap<string, string> | null => named.get(subject) ?? null,
    /** Which of them it is. */
    of: (headings: readonly string[], fileName: string): string => {
      if (said !== ANY) return said;
      const keys = headings.map(headingKey).filter(Boolean);
      const score = (subject: string) =>
        fit(subject, keys) * 2 + (isCalled(fileName, subject) && fit(subject, keys) > 0 ? 3 : 0);
      return ['people', ...plain].reduce((best, one) => (score(one) > score(best) ? one : best));
    },
  };
};
