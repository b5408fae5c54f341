import type { Bound, Named } from '@gremium/contract';
import { type DirectoryAsk, addDays, directory, isBefore, managerChain } from '@gremium/core';
import { managersOut } from '../structure/lines';
import type { Asking } from '../time/questions';

type AroundPerson = {
  personId: number;
  positionId: number | null;
  /** When that placement ends: of one that is over, its last day says where it was. */
  until: Bound;
  untitled: readonly number[];
};

export const peopleQuestions = {
  directory: ({ facts, directory: texts, sight, looking }: Asking, ask: DirectoryAsk) =>
    directory(facts, texts, { ask, sight, on: looking.on }),

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
