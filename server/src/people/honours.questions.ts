import type { Day, HonourDue } from '@gremium/contract';
import { dayNumber, declaredOn, honoursDue, serviceHonours } from '@gremium/core';
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

/** Questions about honours and what people declared of themselves. */
export const honourQuestions = {
  honoursDue: dueFor,
  // whoever may have figures has those of all: of a part, two of them would tell the difference
  declaredFigures: ({ facts, looking }: Asking, _: object) => ({
    day: looking.on,
    ...declaredOn(facts.columns, looking.on),
  }),
};
