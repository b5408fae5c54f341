// What a form asks of a thing that is added where it is missing: few fields, the rest follows from them.
import { type PickKind, preset } from '@gremium/contract';
import { codeFrom } from '@gremium/core';

type Typed = Record<string, unknown>;

export type Shape = {
  /** The fields that are asked; left out: all. */
  only?: readonly string[];
  /** What follows from what is typed, where nothing is said of it. */
  rest?: (typed: Typed) => Typed;
  /** It is there from the day looked at on, not always. */
  isFromDay?: true;
};

const codeOf = ({ name }: Typed): Typed =>
  typeof name === 'string' && name !== '' ? { code: codeFrom(name) } : {};

const shapes: { [K in PickKind]?: Shape } = {
  unit: { only: ['name', 'code', 'kindId', 'parentId', 'locationId'], rest: codeOf, isFromDay: true },
  job: {
    only: ['name', 'code', 'familyId', 'gradeId', 'workerTypeId', 'hours'],
    rest: (typed) => ({ ...codeOf(typed), title: typed['name'], fte: 100, active: true }),
  },
  grade: { only: ['name', 'code', 'level', 'steps'], rest: codeOf },
  location: { rest: codeOf },
  legal_entity: { rest: codeOf },
  cost_centre: { rest: codeOf },
  least_age: { rest: (typed) => ({ ...codeOf(typed), atSea: typed['atSea'] ?? false }) },
};

/** What the form of a kind asks; of one that is there, nothing that changes by an act of its own. */
export const shapeOf = (kind: PickKind, isThere: boolean): Shape => {
  const shape = shapes[kind] ?? {};
  if (!isThere) return shape;
  const own = [...preset.section(kind).metas].flatMap(([name, { door }]) => (door ? [] : [name]));
  return { only: own };
};
