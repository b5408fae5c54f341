// What stands around the record of a unit or a job on a day.
import type { FiguresOut, MemberLine, Named, UnitBelow } from '@gremium/contract';
import {
  contractedShare,
  dayNumber,
  hiresNeedPosition,
  hundredths,
  isOn,
  personOf,
  unitChain,
} from '@gremium/core';
import type { Asking } from '../time/questions';
import { figuresOut, headOf, nameIn, positionLine } from './lines';
import { rolledUp } from './rolled-days';

const MOST_POSITIONS = 500;
const MOST_MEMBERS = 1000;

/** A unit with what is above, in and below it. */
export const aroundUnit = (asking: Asking, id: number) => {
  const { facts, sight, looking } = asking;
  const { columns } = facts;
  const { on } = looking;
  const values = columns.at('unit', id, on);
  const rolled = rolledUp(asking);
  const at = rolled.units.indexOf(id);
  const day = dayNumber(on);
  const named = (unitId: number): Named[] =>
    sight.unit(unitId, day)
      ? [{ kind: 'unit', id: unitId, name: columns.at('unit', unitId, on)?.name ?? '' }]
      : [];
  return {
    path: values?.parentId ? unitChain(columns, values.parentId, on).reverse().flatMap(named) : [],
    head: values && sight.has('person_name') ? headOf(asking, values.headPositionId, rolled.leader) : null,
    own: at < 0 ? null : figuresOut(rolled.figures(at).own, sight),
    branch: at < 0 ? null : figuresOut(rolled.figures(at).branch, sight),
    below: unitsBelow(asking, id),
    positions: positionsIn(asking, id),
    members: membersOf(asking, id),
    hiresNeedPosition: values ? hiresNeedPosition(columns, id, on) : true,
    managers: [],
  };
};

const unitsBelow = (asking: Asking, id: number): UnitBelow[] => {
  const { facts, sight, looking } = asking;
  const { columns } = facts;
  const rolled = rolledUp(asking);
  const day = dayNumber(looking.on);
  return columns
    .referrers('unit', 'parentId', id)
    .filter((row) => isOn(row, looking.on) && sight.unit(row.thing, day))
    .map(({ thing, values }) => ({
      kind: 'unit' as const,
      id: thing,
      name: values.name,
      code: values.code,
      figures: figuresOut(rolled.figures(rolled.units.indexOf(thing)).branch, sight) satisfies FiguresOut,
    }))
    .sort((a, b) => a.name.localeCompare(b.name));
};

const ofUnit = ({ facts: { columns }, sight, looking }: Asking, id: number) => {
  const day = dayNumber(looking.on);
  return columns
    .referrers('position', 'unitId', id)
    .filter((row) => isOn(row, looking.on) && sight.position(row.thing, day));
};

const positionsIn = (asking: Asking, id: number) =>
  ofUnit(asking, id)
    .filter(({ values }) => values.standing !== 'closed')
    .slice(0, MOST_POSITIONS)
    .map(({ thing, values }) => positionLine(asking, { thing, ...values }))
    .sort((a, b) => a.title.localeCompare(b.title) || a.code.localeCompare(b.code));

// People whose primary placement is in the unit.
const membersOf = (asking: Asking, id: number): MemberLine[] => {
  const { facts, sight, looking } = asking;
  const { columns } = facts;
  const { on } = looking;
  if (!sight.has('placement') || !sight.has('person_name')) return [];
  const members: MemberLine[] = [];
  for (const position of ofUnit(asking, id))
    for (const row of columns.referrers('placement', 'positionId', position.thing)) {
      if (!isOn(row, on) || row.values.kind !== 'primary' || members.length >= MOST_MEMBERS) continue;
      const personId = personOf(columns, row.values, on);
      if (personId === undefined || !sight.person(personId)) continue;
      members.push({
        personId,
        name: nameIn(columns, personId, looking),
        positionId: position.thing,
        title: position.values.title,
        share: hundredths(contractedShare(row.values)),
        since: row.from,
      });
    }
  return members.sort((a, b) => a.name.localeCompare(b.name));
};

const MOST_OF_JOB = 100;

/** A job with the positions that the viewer may see. */
export const aroundJob = (asking: Asking, id: number) => {
  const { facts, sight, looking } = asking;
  const day = dayNumber(looking.on);
  const lines = facts.columns
    .referrers('position', 'jobId', id)
    .filter(
      (row) => isOn(row, looking.on) && row.values.standing !== 'closed' && sight.position(row.thing, day),
    )
    .map(({ thing, values }) => positionLine(asking, { thing, ...values }));
  const isFree = ({ mark }: { mark: string }) => mark === 'vacant' || mark === 'part_filled';
  return {
    positions: lines
      .sort((a, b) => Number(isFree(b)) - Number(isFree(a)) || a.id - b.id)
      .slice(0, MOST_OF_JOB),
    count: lines.length,
    holders: new Set(lines.flatMap(({ holders }) => holders)).size,
    free: lines.filter(isFree).length,
  };
};
