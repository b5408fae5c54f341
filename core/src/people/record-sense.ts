// What rows of a record say that may be meant but seldom is: days out of reason, two of what there is one of, evidence missing.
import type { Change, Day, Problem, Row, SectionName } from '@gremium/contract';
import { addDays, addMonths, isBefore, overlaps } from '../time/calendar';
import { problem } from '../time/problem';
import type { Register } from '../time/register';

/** Days that lie behind whoever records them. */
const PAST: { [S in SectionName]?: readonly string[] } = {
  dependant: ['birthDate'],
  identifier: ['issuedOn'],
  held_certificate: ['issuedOn'],
  held_skill: ['assessedOn'],
  held_education: ['completedOn'],
  attended_training: ['completedOn'],
  medical_fitness: ['examinedOn'],
  disciplinary_measure: ['imposedOn'],
  asset: ['givenOn'],
  award: ['awardedOn', 'orderedOn'],
  document: ['documentedOn'],
  confidential_document: ['documentedOn'],
};

/** Of what there is one at a time, with what tells one from another. */
const ONE: { [S in SectionName]?: { by: readonly string[]; only?: string } } = {
  contact: { by: ['kind', 'use'], only: 'primary' },
  postal_address: { by: ['use'] },
  bank_account: { by: ['purpose'] },
  emergency_contact: { by: ['order'] },
  held_certificate: { by: ['certificateId', 'number'] },
  held_skill: { by: ['skillId'] },
  spoken_language: { by: ['language'] },
  protected_status: { by: ['kindId', 'country'] },
};

const FIRST_YEAR = 1910;
const LAST_YEAR = 2100;

type Values = Record<string, unknown>;
const valuesOf = (row: Row): Values => row.values as Values;

/** What records of people are looked at by their own rules. */
export const hasRecordSense = (section: SectionName): boolean => section in PAST || section in ONE;

// A day of another century, or one that is said to be behind and lies ahead of the day from which it is recorded.
const daysOf = (register: Register, row: Row): Problem[] =>
  [...register.catalogue.section(row.section).metas].flatMap(([field, { is }]): Problem[] => {
    const day = is === 'day' ? (valuesOf(row)[field] as Day | null) : null;
    if (!day) return [];
    const year = Number(day.slice(0, 4));
    if (year < FIRST_YEAR || year > LAST_YEAR) return [problem('day_unlikely', { day }, field)];
    const isPast = PAST[row.section]?.includes(field) === true;
    const isAhead = isPast && row.from !== '-infinity' && isBefore(addMonths(row.from as Day, 12), day);
    return isAhead ? [problem('day_ahead', { day }, field)] : [];
  });

// Recorded as it begins, it is over already.
const overAlready = (row: Row): Problem[] => {
  const { expiresOn } = valuesOf(row) as { expiresOn?: Day | null };
  const isOver = expiresOn && row.from !== '-infinity' && isBefore(addDays(expiresOn, 1), row.from);
  return isOver ? [problem('over_already', { day: expiresOn }, 'expiresOn')] : [];
};

const twoOfOne = (register: Register, row: Row): Problem[] => {
  const one = ONE[row.section];
  const owner = register.catalogue.section(row.section).owner?.field;
  if (!one || !owner) return [];
  const values = valuesOf(row);
  if (one.only !== undefined && values[one.only] !== true) return [];
  if (one.by.some((field) => values[field] === null && field !== 'number' && field !== 'country')) return [];
  const other = register
    .referrers(row.section, owner as never, values[owner] as number)
    .find(
      (candidate) =>
        candidate.thing !== row.thing &&
        overlaps(candidate, row) &&
        one.by.every((field) => valuesOf(candidate as Row)[field] === values[field]) &&
        (one.only === undefined || valuesOf(candidate as Row)[one.only] === true),
    );
  return other ? [problem('two_of_one', {}, one.only ?? one.by[0])] : [];
};

// A certificate or a training may ask for its evidence, as an honour does.
const EVIDENCE: { [S in SectionName]?: string } = {
  held_certificate: 'certificateId',
  attended_training: 'trainingId',
};

const withoutEvidence = (register: Register, row: Row): Problem[] => {
  const kind = EVIDENCE[row.section];
  if (!kind) return [];
  const { [kind]: id, evidence } = valuesOf(row);
  const asks = register.rows('list_entry', id as number).at(-1)?.values.flags.asks ?? [];
  return asks.includes('evidence') && !evidence ? [problem('evidence_missing', {}, 'evidence')] : [];
};

// Older than anybody, or not born when it is said.
const MOST_YEARS = 115;
const agesOf = (row: Row): Problem[] => {
  if (row.section !== 'dependant') return [];
  const { birthDate } = valuesOf(row) as { birthDate: Day | null };
  if (!birthDate || row.from === '-infinity') return [];
  const isOld = isBefore(addMonths(birthDate, MOST_YEARS * 12), row.from);
  return isOld ? [problem('day_unlikely', { day: birthDate }, 'birthDate')] : [];
};

/** What is odd in a row that is new, or says something new; `before`: what stood in its place. */
export const recordSense = (register: Register, row: Row, { superseded }: Change): Problem[] => {
  const was = superseded.filter((one) => one.thing === row.thing && one.section === row.section);
  const stood = (field: string | undefined): boolean =>
    field !== undefined &&
    was.some((one) => JSON.stringify(valuesOf(one)[field]) === JSON.stringify(valuesOf(row)[field]));
  const found = [
    ...daysOf(register, row),
    ...overAlready(row),
    ...twoOfOne(register, row),
    ...withoutEvidence(register, row),
    ...agesOf(row),
  ];
  // whoever changes another field is not asked again
  return found.filter(({ field, code }) =>
    code === 'two_of_one' ? was.length === 0 || !stood(field) : !stood(field),
  );
};
