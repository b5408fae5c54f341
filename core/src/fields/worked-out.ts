// Fields that are worked out, each beside the function of core that computes it, with all sections that it reads.
import type { Day, FieldMeta, Row, SectionName } from '@gremium/contract';
import { nextStep } from '../people/steps';
import { payPlaceOn } from '../people/pay-now';
import { countsOn } from '../people/directory';
import { sortName, spokenName } from '../people/names';
import { daysOf, yearly } from '../people/yearly';
import { holderDifferences } from '../structure/differences';
import { fraction, toNumber } from '../structure/fraction';
import { managerAbove } from '../structure/manager';
import { markOf } from '../structure/mark';
import { positionState, vacancyOn } from '../structure/occupancy';
import { isUnconfirmedTop } from '../structure/tops';
import { unitChain } from '../structure/tree';
import {
  addMonths,
  boundOf,
  completedMonths,
  completedYears,
  dayNumber,
  daysBetween,
} from '../time/calendar';
import type { Anchor, Cursor } from './cursor';
import type { Value, ValueKind } from './field';

/** A worked-out field: offered wherever a row leads to the anchor. */
export type WorkedOut = {
  section: SectionName;
  name: string;
  kind: ValueKind;
  anchor: Anchor;
  needs: readonly SectionName[];
  /** Fields among what it reads that the organisation may hide from somebody: it is hidden with them. */
  reads?: readonly string[];
  /** What its values name. */
  meta?: FieldMeta;
  read: (at: Cursor) => Value;
  /** By what it is sorted, where not by what it says. */
  sortedBy?: (at: Cursor) => string | null;
};

const has = (at: Cursor, ...sections: SectionName[]): boolean => sections.every((one) => at.of(one) >= 0);

// The day on which what belongs to the row is looked at, as text.
const dayOf = (at: Cursor): Day => boundOf(at.then) as Day;

const rowOf = <S extends SectionName>(at: Cursor, section: S): Row<S> =>
  at.facts.columns.table(section).row(at.of(section)) as Row<S>;

const idOf = (at: Cursor, kind: Anchor): number => at.idOf(kind, at.anchor(kind));

const mayAll = (at: Cursor, ...sections: SectionName[]): boolean =>
  sections.every((one) => at.sight.has(one));

// First and last days of all versions of an employment.
const spanOf = (at: Cursor): { from: number; until: number } | null => {
  if (!has(at, 'employment')) return null;
  const table = at.facts.columns.table('employment');
  let [from, until] = [Infinity, -Infinity];
  const { byThing } = table;
  for (let slot = byThing.first(at.anchor('employment')); slot >= 0; slot = byThing.next(slot)) {
    from = Math.min(from, table.from[slot] as number);
    until = Math.max(until, table.until[slot] as number);
  }
  return { from, until };
};

const dayText = (number: number): Day | null => {
  const text = boundOf(number);
  return text.endsWith('infinity') ? null : (text as Day);
};

// The next day of the year on which a day comes round.
const comesRound = (from: Day, on: Day): Day => {
  const years = completedYears(from, on);
  const last = addMonths(from, 12 * years);
  return last === on ? on : addMonths(from, 12 * (years + 1));
};

const ofPosition = (
  name: string,
  kind: ValueKind,
  read: (at: Cursor, id: number, on: Day) => Value,
  more: readonly SectionName[] = [],
  reads: readonly string[] = [],
): WorkedOut => ({
  section: 'position',
  name,
  kind,
  anchor: 'position',
  needs: ['position', ...more],
  reads,
  read: (at) =>
    has(at, 'position') && mayAll(at, ...more) ? read(at, idOf(at, 'position'), dayOf(at)) : null,
});

const HELD: readonly SectionName[] = ['position_limits', 'placement'];
const LIMITS = ['position_limits.places', 'position_limits.fte'];

// The name of somebody, if the viewer may see it.
const nameOf = (at: Cursor, personId: number): string | null => {
  if (!at.sight.person(personId)) return null;
  const { columns } = at.facts;
  const values =
    columns.at('person_name', personId, at.on as Day) ?? columns.rows('person_name', personId)[0]?.values;
  return values ? spokenName(values) : null;
};

/** All of them, in the order in which they are offered. */
export const workedOut: readonly WorkedOut[] = [
  {
    section: 'person_name',
    name: 'name',
    kind: 'text',
    anchor: 'person',
    needs: ['person_name'],
    read: (at) => (has(at, 'person_name') ? spokenName(rowOf(at, 'person_name').values) : null),
  },
  {
    section: 'person_name',
    name: 'listed',
    kind: 'text',
    anchor: 'person',
    needs: ['person_name'],
    read: (at) => (has(at, 'person_name') ? sortName(rowOf(at, 'person_name').values) : null),
    sortedBy: (at) => {
      const slot = at.of('person_name');
      const [, sort] = at.facts.columns.table('person_name').extras;
      return slot < 0 ? null : (sort?.[slot] ?? null);
    },
  },
  {
    section: 'person_name',
    name: 'formerNames',
    kind: 'text',
    anchor: 'person',
    needs: ['person_name'],
    read: (at) => {
      if (!has(at, 'person_name')) return null;
      const now = spokenName(rowOf(at, 'person_name').values);
      const rows = at.facts.columns.rows('person_name', idOf(at, 'person'));
      const others = [...new Set(rows.map(({ values }) => spokenName(values)))].filter((one) => one !== now);
      return others.length > 0 ? others.join('; ') : null;
    },
  },
  {
    section: 'person',
    name: 'age',
    kind: 'number',
    anchor: 'person',
    needs: ['person'],
    reads: ['person.birthDate'],
    read: (at) => {
      const birth = at.text('person', 'birthDate');
      return birth === null || birth > at.on ? null : completedYears(birth as Day, at.on as Day);
    },
  },
  {
    section: 'person',
    name: 'nextBirthday',
    kind: 'day',
    anchor: 'person',
    needs: ['person'],
    reads: ['person.birthDate'],
    read: (at) => {
      const birth = at.text('person', 'birthDate');
      return birth === null || birth > at.on ? null : comesRound(birth as Day, at.on as Day);
    },
  },
  {
    section: 'employment',
    name: 'status',
    kind: 'choice',
    anchor: 'employment',
    needs: ['employment', 'placement'],
    read: (at) => {
      const span = spanOf(at);
      if (!span) return null;
      if (span.from > at.day) return 'coming';
      if (span.until <= at.day) return 'left';
      const slot = at.of('placement');
      if (slot < 0) return 'at_work';
      const hours = at.number('placement', 'hours');
      const held = hours - at.number('placement', 'lentHours');
      return hours > 0 && at.number('placement', 'awayHours') >= held ? 'away' : 'at_work';
    },
  },
  {
    section: 'employment',
    name: 'counts',
    kind: 'yes_no',
    anchor: 'person',
    needs: ['employment', 'placement', 'person_name'],
    read: (at) => (has(at, 'employment') ? countsOn(at.facts, at.anchor('person'), at.day) : null),
  },
  {
    section: 'employment',
    name: 'begins',
    kind: 'day',
    anchor: 'employment',
    needs: ['employment'],
    read: (at) => {
      const span = spanOf(at);
      return span && dayText(span.from);
    },
  },
  {
    section: 'employment',
    name: 'ends',
    kind: 'day',
    anchor: 'employment',
    needs: ['employment'],
    read: (at) => {
      const span = spanOf(at);
      return span && dayText(span.until) && dayText(span.until - 1);
    },
  },
  {
    section: 'employment',
    name: 'tenure',
    kind: 'number',
    anchor: 'employment',
    needs: ['employment'],
    reads: ['employment.seniorityDate'],
    read: (at) => {
      const span = spanOf(at);
      const since = at.text('employment', 'seniorityDate') ?? (span && dayText(span.from));
      if (!since || since > at.on) return null;
      return Math.floor(completedMonths(since as Day, at.on as Day) / 12);
    },
  },
  {
    section: 'employment',
    name: 'nextAnniversary',
    kind: 'day',
    anchor: 'employment',
    needs: ['employment'],
    reads: ['employment.seniorityDate'],
    read: (at) => {
      const span = spanOf(at);
      const since = at.text('employment', 'seniorityDate') ?? (span && dayText(span.from));
      return since && since <= at.on ? comesRound(since as Day, at.on as Day) : null;
    },
  },
  {
    section: 'placement',
    name: 'share',
    kind: 'exact',
    anchor: 'placement',
    needs: ['placement'],
    read: (at) =>
      has(at, 'placement')
        ? fraction(
            at.number('placement', 'hours') - at.number('placement', 'lentHours'),
            at.number('placement', 'fullTime'),
          )
        : null,
  },
  {
    section: 'placement',
    name: 'manager',
    kind: 'text',
    anchor: 'placement',
    needs: ['placement', 'position', 'person_name'],
    read: (at) => {
      if (!has(at, 'placement', 'position')) return null;
      const person = at.anchor('person');
      const id = person < 0 ? 0 : at.idOf('person', person);
      const manager = managerAbove(at.facts.columns, idOf(at, 'position'), dayOf(at), id);
      return manager && nameOf(at, manager.personId);
    },
  },
  {
    section: 'contract',
    name: 'daysLeft',
    kind: 'number',
    anchor: 'employment',
    needs: ['contract'],
    reads: ['contract.fixedUntil'],
    read: (at) => {
      const until = at.text('contract', 'fixedUntil');
      return until === null ? null : daysBetween(at.on as Day, until as Day);
    },
  },
  {
    section: 'pay',
    name: 'yearlyPay',
    kind: 'exact',
    anchor: 'employment',
    needs: ['pay', 'placement'],
    reads: ['pay.timesAYear'],
    read: (at) => {
      if (!has(at, 'pay', 'placement')) return null;
      const { hours, fullTime } = rowOf(at, 'placement').values;
      const { values } = rowOf(at, 'pay');
      const days = daysOf(at.facts.columns, values, dayOf(at));
      const year = yearly(values, { fullTime, days });
      if (values.rate === 'actual') return year;
      return fraction(year.num * BigInt(hours), year.den * BigInt(fullTime));
    },
  },
  ...(['compaRatio', 'placeInRange', 'isOutside'] as const).map((name): WorkedOut => ({
    section: 'pay',
    name,
    kind: name === 'isOutside' ? 'yes_no' : 'exact',
    anchor: 'employment',
    needs: ['pay', 'placement', 'position', 'grade_range'],
    reads: ['pay.timesAYear', 'position.gradeId', 'job.gradeId'],
    read: (at) => {
      if (!has(at, 'pay', 'placement', 'position') || !mayAll(at, 'grade_range')) return null;
      return payPlaceOn(at.facts.columns, rowOf(at, 'pay'), dayOf(at))?.[name] ?? null;
    },
  })),
  {
    section: 'pay',
    name: 'nextStepOn',
    kind: 'day',
    anchor: 'employment',
    // an absence may stop the clock: the day tells of why somebody is away
    needs: ['pay', 'placement', 'position', 'grade_step', 'absence'],
    reads: ['pay.step', 'position.gradeId', 'job.gradeId', 'employment.continuesId'],
    read: (at) => {
      if (!has(at, 'pay', 'placement', 'position') || at.text('pay', 'step') === null) return null;
      return nextStep(at.facts.columns, idOf(at, 'employment'), dayOf(at))?.due ?? null;
    },
  },
  ofPosition('occupancy', 'choice', (at, id, on) => markOf(at.facts.columns, id, on) ?? null, HELD, LIMITS),
  ofPosition('held', 'exact', (at, id, on) => positionState(at.facts.columns, id, on).held, HELD),
  ofPosition(
    'freePlaces',
    'number',
    (at, id, on) => positionState(at.facts.columns, id, on).freePlaces,
    HELD,
    LIMITS,
  ),
  ofPosition(
    'freeFte',
    'exact',
    (at, id, on) => positionState(at.facts.columns, id, on).freeFte,
    HELD,
    LIMITS,
  ),
  ofPosition(
    'hireFte',
    'exact',
    (at, id, on) => positionState(at.facts.columns, id, on).hireFte,
    HELD,
    LIMITS,
  ),
  ofPosition(
    'daysVacant',
    'number',
    (at, id, on) => vacancyOn(at.facts.columns, id, on)?.days ?? null,
    HELD,
    LIMITS,
  ),
  ofPosition(
    'vacantSince',
    'day',
    (at, id, on) => dayText(dayNumber(vacancyOn(at.facts.columns, id, on)?.since ?? '-infinity')),
    HELD,
    LIMITS,
  ),
  ofPosition(
    'holders',
    'text',
    (at, id, on) => {
      const { columns } = at.facts;
      const people = positionState(columns, id, on).holders.flatMap(({ values }) => {
        const person = columns.rows('employment', values.employmentId)[0]?.values.personId;
        return person === undefined ? [] : (nameOf(at, person) ?? []);
      });
      return people.length > 0 ? people.join('; ') : null;
    },
    ['placement', 'employment', 'person_name'],
  ),
  ofPosition('unconfirmedTop', 'yes_no', (at, id, on) => isUnconfirmedTop(at.facts.columns, id, on)),
  ofPosition(
    'differences',
    'number',
    (at, id, on) => holderDifferences(at.facts.columns, id, on).length,
    ['placement'],
    ['placement.costCentreId', 'position.costCentreId', 'position.hours'],
  ),
  ofPosition(
    'reviewDue',
    'day',
    (at, id, on) =>
      positionState(at.facts.columns, id, on)
        .holders.flatMap(({ values }) => values.reviewOn ?? [])
        .sort()[0] ?? null,
    ['placement'],
    ['placement.reviewOn'],
  ),
  {
    section: 'unit',
    name: 'within',
    kind: 'entries',
    anchor: 'unit',
    needs: ['unit'],
    meta: { is: 'ref', kind: 'unit' } as FieldMeta,
    read: (at) => (has(at, 'unit') ? unitChain(at.facts.columns, idOf(at, 'unit'), dayOf(at)) : null),
  },
  {
    section: 'unit',
    name: 'path',
    kind: 'text',
    anchor: 'unit',
    needs: ['unit'],
    read: (at) => {
      if (!has(at, 'unit')) return null;
      const { columns } = at.facts;
      const on = dayOf(at);
      const seen = unitChain(columns, idOf(at, 'unit'), on).filter((id) => at.sight.unit(id, at.then));
      return seen
        .reverse()
        .map((id) => columns.at('unit', id, on)?.name ?? '')
        .join(' › ');
    },
  },
];

/** As a number, for means only. */
export const asNumber = (value: Value): number => {
  if (typeof value === 'number') return value;
  return value && typeof value === 'object' && 'num' in value ? toNumber(value) : NaN;
};
