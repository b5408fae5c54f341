import type { Bound, Named, PersonLine } from '@gremium/contract';
import {
  type DirectoryAsk,
  addDays,
  directory,
  isBefore,
  managerChain,
  managersOn,
  reporting,
} from '@gremium/core';
import { fitting } from '../reports/reports.questions';
import { LastKept } from '../time/last-kept';
import { managersOut } from '../structure/lines';
import type { Asking } from '../time/questions';

type AroundPerson = {
  personId: number;
  positionId: number | null;
  /** When that placement ends: of one that is over, its last day says where it was. */
  until: Bound;
  untitled: readonly number[];
};

/** A page of people, with a condition, with photos. */
type PeopleAsk = Omit<DirectoryAsk, 'fits'> & { where?: string | undefined; photos?: boolean | undefined };
type Under = { under: number | null };

// Working out everybody's manager takes its time at scale: kept while the tree is unfolded.
const lastManagers = new WeakMap<Asking['facts'], LastKept<ReadonlyMap<number, number | null>>>();

const withPicture = ({ facts, sight }: Asking, line: PersonLine): PersonLine => {
  if (!sight.has('person_photo') || !sight.person(line.id, 'person_photo')) return line;
  const [photo] = facts.columns.rows('person_photo', line.id);
  return photo ? { ...line, picture: photo.values.picture } : line;
};

export const peopleQuestions = {
  directory: (asking: Asking, { where, photos, ...ask }: PeopleAsk) => {
    const { facts, directory: texts, sight, looking } = asking;
    const fits = where ? fitting(asking, where) : undefined;
    const found = directory(facts, texts, { ask: { ...ask, fits }, sight, on: looking.on });
    return photos ? { ...found, people: found.people.map((line) => withPicture(asking, line)) } : found;
  },

  reportingTree: ({ facts, directory: texts, sight, looking, number }: Asking, { under }: Under) => {
    const { on } = looking;
    const known = lastManagers.get(facts) ?? new LastKept<ReadonlyMap<number, number | null>>(2);
    lastManagers.set(facts, known);
    const managers = known.get(`${number} ${on}`, () => managersOn(facts, on));
    return { people: reporting(facts, texts, { sight, on, under, managers }) };
  },

  /** Managers above a person on the day, title and unit of the position, titles of others that are held. */
  aroundPerson: (asking: Asking, { personId, positionId, until, untitled }: AroundPerson) => {
    const { columns } = asking.facts;
    const { on } = asking.looking;
    const isOver = until !== 'infinity' && !isBefore(on, until);
    const day = isOver ? addDays(until, -1) : on;
    const chain = positionId === null || isOver ? [] : managerChain(columns, positionId, on, personId);
    const position = positionId === null ? undefined : columns.at('position', positionId, day);
    const unit = position && columns.at('unit', position.unitId, day);
    const titles = untitled.map((id): Named => {
      const name = columns.rows('position', id).at(-1)?.values.title ?? '';
      return { kind: 'position', id, name };
    });
    return {
      titles,
      managers: managersOut(asking, chain),
      place: position ? { title: position.title, unit: unit?.name ?? '' } : null,
    };
  },
};
