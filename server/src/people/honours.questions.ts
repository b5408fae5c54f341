import type { Day, HonourDue } from '@gremium/contract';
import {
  LEAST_TOLD,
  countedEmployment,
  dayNumber,
  honoursDue,
  serviceHonours,
  spellsOf,
  toldFigures,
} from '@gremium/core';
import { nameIn } from '../structure/lines';
import type { Asking } from '../time/questions';

const MOST = 1000;

type DueAsk = { by: Day; honour?: number | undefined };

// Where somebody is on the day, as far as the viewer may see it.
const placeOf = ({ facts: { columns }, sight, looking }: Asking, personId: number) => {
  const none = { title: '', unit: '' };
  const anchor = sight.anchor(personId);
  if (!anchor || !sight.has('placement')) return none;
  const positionId = columns.thingsOf('position').ids[anchor.position] as number;
  const position = columns.at('position', positionId, looking.on);
  if (!position || !sight.position(positionId, dayNumber(looking.on))) return none;
  return { title: position.title, unit: columns.at('unit', position.unitId, looking.on)?.name ?? '' };
};

const dueFor = (asking: Asking, { by, honour }: DueAsk): { due: HonourDue[]; count: number } => {
  const { facts, sight, looking } = asking;
  const { columns } = facts;
  const kinds = serviceHonours(columns, by).filter(
    ({ honourId }) => honour === undefined || honourId === honour,
  );
  const due: HonourDue[] = [];
  if (kinds.length === 0 || !sight.has('person_name')) return { due, count: 0 };
  const seen = new Set<number>();
  for (const { values } of columns.allOn('employment', by)) {
    const { personId } = values;
    if (seen.has(personId)) continue;
    seen.add(personId);
    if (!sight.person(personId) || !sight.person(personId, 'award') || !sight.person(personId, 'employment'))
      continue;
    for (const one of honoursDue(columns, personId, by, kinds)) {
      const number = sight.person(personId, 'person')
        ? (columns.rows('person', personId).at(-1)?.values.number ?? '')
        : '';
      due.push({
        ...one,
        personId,
        number,
        name: nameIn(columns, personId, looking),
        ...placeOf(asking, personId),
      });
    }
  }
  due.sort((a, b) => (a.due === b.due ? a.name.localeCompare(b.name) : a.due < b.due ? -1 : 1));
  return { due: due.slice(0, MOST), count: due.length };
};

// Figures by the day would tell who declared something from one to the next: they are those of the first of the month.
const firstOfMonth = (day: Day): Day => `${day.slice(0, 8)}01` as Day;

const declared = ({ facts: { columns }, looking }: Asking) => {
  const day = firstOfMonth(looking.on);
  const counted = new Set<number>();
  const seen = new Set<number>();
  for (const { values } of columns.allOn('employment', day)) {
    if (seen.has(values.personId)) continue;
    seen.add(values.personId);
    if (countedEmployment(columns, spellsOf(columns, values.personId), day)) counted.add(values.personId);
  }
  const questions = new Map<string, Map<number, number>>();
  for (const { thing, values } of columns.allOn('list_entry', day)) {
    if (values.list !== 'declared_fact') continue;
    const question = values.flags.question ?? '';
    questions.set(question, (questions.get(question) ?? new Map<number, number>()).set(thing, 0));
  }
  const said = new Set<string>();
  for (const { values } of columns.allOn('declared_fact', day)) {
    const question = columns.at('list_entry', values.factId, day)?.flags.question ?? '';
    const counts = questions.get(question);
    // whoever says the same twice is one
    if (!counts || !counted.has(values.personId) || said.has(`${values.personId} ${values.factId}`)) continue;
    said.add(`${values.personId} ${values.factId}`);
    counts.set(values.factId, (counts.get(values.factId) ?? 0) + 1);
  }
  return {
    day,
    counted: counted.size < LEAST_TOLD ? 0 : counted.size,
    questions: [...questions].map(([question, counts]) => ({ question, ...toldFigures(counts) })),
  };
};

/** Questions about honours and what people declared of themselves. */
export const honourQuestions = {
  honoursDue: dueFor,
  // whoever may have figures has those of all: of a part, two of them would tell the difference
  declaredFigures: (asking: Asking, _: object) => declared(asking),
};
