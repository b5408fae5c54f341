// What slips of jobs say alike: the parts that can be copied, and what is decided of each entry within them.
import type { ConcernedOut, JobPart } from '@gremium/contract';
import type { SlipDeclaration } from './slip-declared';

/** What the parts of a job are called. */
export const partOptions: { en: Record<JobPart, string>; de: Record<JobPart, string> } = {
  en: {
    described: 'title and description',
    terms: 'grade, hours, limits',
    tasks: 'tasks',
    responsibilities: 'responsibilities',
    checks: 'checks before a hire',
    skills: 'skills',
    certificates: 'certificates',
    education: 'education',
    pay_basis: 'pay basis',
  },
  de: {
    described: 'Titel und Beschreibung',
    terms: 'Entgeltgruppe, Stunden, Grenzen',
    tasks: 'Aufgaben',
    responsibilities: 'Verantwortung',
    checks: 'Prüfungen vor der Einstellung',
    skills: 'Fähigkeiten',
    certificates: 'Nachweise',
    education: 'Bildungsabschluss',
    pay_basis: 'Entgeltart',
  },
};

/** Whether one of those concerned takes over what is said, rather than keeping its own. */
export const isTaking = ({ values }: ConcernedOut): boolean =>
  values.some(({ source }) => source !== 'before');

/** Entries are left out or copied after all; positions decide otherwise than the rest. */
export const copyExceptions: NonNullable<SlipDeclaration['exceptions']> = {
  path: { list_entry: 'without', position: 'others' },
  word: (_isOther, { words }, line) =>
    words.needs?.[
      line.kind === 'position'
        ? isTaking(line)
          ? 'keep'
          : 'follow'
        : line.values[0]?.after
          ? 'leave'
          : 'copy'
    ] ?? '',
};
