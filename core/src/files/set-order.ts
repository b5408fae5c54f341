// In which order the files of one import are carried out: what others need comes first.
import type { Catalogue, SectionName } from '@gremium/contract';

/** What a file can be about: people, or a section. */
export type FileSubject = 'people' | SectionName;

type Needs = { must: Set<string>; may: Set<string> };

// Kinds of things that a file about a subject makes.
const madeBy = (catalogue: Catalogue, subject: string): readonly string[] => {
  if (subject === 'people') return ['person', 'employment'];
  const section = catalogue.section(subject);
  return section.base ? [section.kind] : [];
};

// People name nearly everything that is no part of a record of theirs.
const isOfPeople = (catalogue: Catalogue, subject: string): boolean => {
  const { kind, owner } = catalogue.section(subject);
  return [kind, owner?.kind].some((one) => one === 'person' || one === 'employment');
};

const needsOf = (catalogue: Catalogue, subject: string): Needs => {
  if (subject === 'people')
    return { must: new Set(['unit', 'job', 'position', 'location', 'legal_entity']), may: new Set() };
  const section = catalogue.section(subject);
  const needs: Needs = { must: new Set(), may: new Set() };
  if (!section.base && section.own === null) needs.must.add(section.kind);
  for (const [field, meta] of section.metas)
    if (meta.is === 'ref' && meta.kind !== section.kind)
      (field in section.nulls ? needs.may : needs.must).add(meta.kind);
  return needs;
};

const rank = (catalogue: Catalogue, subject: string): number => {
  if (subject === 'list_entry') return 0;
  if (subject === 'people') return 2;
  return isOfPeople(catalogue, subject) ? 3 : 1;
};

/**
 * Subjects in the order in which their files are carried out, whatever order they come in: lists, then what others must
 * name, then people, then parts of their records. Of those that name each other, first the one that can do without.
 */
export const filesInOrder = <T extends { subject: string }>(
  catalogue: Catalogue,
  files: readonly T[],
): T[] => {
  const waiting = [...files];
  const done: T[] = [];
  while (waiting.length > 0) {
    const unmet = ({ subject }: T, which: keyof Needs) => {
      const others = waiting.filter((other) => other.subject !== subject);
      const made = new Set(others.flatMap((other) => madeBy(catalogue, other.subject)));
      return [...needsOf(catalogue, subject)[which]].filter((kind) => made.has(kind)).length;
    };
    const weight = (file: T) =>
      rank(catalogue, file.subject) * 1e6 + unmet(file, 'must') * 1e3 + unmet(file, 'may');
    const next = waiting.reduce((best, file) => (weight(file) < weight(best) ? file : best));
    waiting.splice(waiting.indexOf(next), 1);
    done.push(next);
  }
  return done;
};

/** Kinds of things that files of subjects make. */
export const madeKinds = (catalogue: Catalogue, subjects: readonly string[]): Set<string> =>
  new Set(subjects.flatMap((subject) => madeBy(catalogue, subject)));
