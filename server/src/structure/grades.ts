// What stands around a grade on a day, and who reaches its next step.
import type { Day, OutsideLine, Row, StepLine } from '@gremium/contract';
import {
  addDays,
  dayNumber,
  hundredths,
  isBasePay,
  isOn,
  nextStep,
  payPlaceOn,
  personOf,
  primaryPlacement,
  spanOf,
} from '@gremium/core';
import type { Asking } from '../time/questions';
import { nameIn, positionLine } from './lines';

const MOST_OF_GRADE = 100;

const mayPay = ({ sight, looking }: Asking, employment: number): boolean =>
  sight.owned('pay', { kind: 'employment', id: employment }, dayNumber(looking.on));

// People in positions of the grade whose base pay lies outside its range, as far as the viewer may see pay and name.
const outsideOf = (asking: Asking, positions: readonly Row<'position'>[]): OutsideLine[] => {
  const { facts, sight, looking } = asking;
  const { columns } = facts;
  if (!sight.has('pay') || !sight.has('person_name') || !sight.has('placement')) return [];
  const lines: OutsideLine[] = [];
  for (const position of positions)
    for (const placement of columns.referrers('placement', 'positionId', position.thing)) {
      if (!isOn(placement, looking.on) || placement.values.kind !== 'primary') continue;
      const { employmentId } = placement.values;
      const personId = personOf(columns, placement.values, looking.on);
      if (personId === undefined || !sight.person(personId) || !mayPay(asking, employmentId)) continue;
      for (const pay of columns.referrers('pay', 'employmentId', employmentId)) {
        const place = payPlaceOn(columns, pay, looking.on);
        if (!place?.isOutside) continue;
        lines.push({
          personId,
          name: nameIn(columns, personId, looking),
          positionId: position.thing,
          title: position.values.title,
          amount: pay.values.amount,
          currency: pay.values.currency,
          compaRatio: place.compaRatio && hundredths(place.compaRatio),
        });
      }
    }
  return lines.sort((a, b) => a.name.localeCompare(b.name));
};

/** A grade with the positions that the viewer may see, and who is paid outside its range. */
export const aroundGrade = (asking: Asking, id: number) => {
  const { facts, sight, looking } = asking;
  const day = dayNumber(looking.on);
  const positions = facts.columns
    .referrers('position', 'gradeId', id)
    .filter(
      (row) => isOn(row, looking.on) && row.values.standing !== 'closed' && sight.position(row.thing, day),
    );
  const lines = positions.map(({ thing, values }) => positionLine(asking, { thing, ...values }));
  const outside = outsideOf(asking, positions);
  return {
    positions: lines.sort((a, b) => a.title.localeCompare(b.title) || a.id - b.id).slice(0, MOST_OF_GRADE),
    count: lines.length,
    holders: new Set(lines.flatMap(({ holders }) => holders)).size,
    outside: outside.slice(0, MOST_OF_GRADE),
    outsideCount: outside.length,
  };
};

const MOST_STEPS = 1000;

type StepsAsk = { by: Day; grade?: number | undefined };

/** Who reaches the next step by a day: those whose pay and names the viewer may see, the earliest first. */
export const stepsDue = (asking: Asking, { by, grade }: StepsAsk): { steps: StepLine[]; count: number } => {
  const { facts, sight, looking } = asking;
  const { columns } = facts;
  const steps: StepLine[] = [];
  if (!sight.has('pay') || !sight.has('person_name')) return { steps, count: 0 };
  const seen = new Set<number>();
  for (const { values } of columns.allOn('pay', looking.on)) {
    const { employmentId } = values;
    if (values.step === null || seen.has(employmentId) || !isBasePay(columns, values)) continue;
    seen.add(employmentId);
    const line = lineOf(asking, employmentId, by);
    if (line && (grade === undefined || line.gradeId === grade)) steps.push(line);
  }
  steps.sort((a, b) => (a.due === b.due ? a.name.localeCompare(b.name) : a.due < b.due ? -1 : 1));
  return { steps: steps.slice(0, MOST_STEPS), count: steps.length };
};

// By what will hold on the day asked about, or on the last day of an employment that ends before.
const lineOf = (asking: Asking, employmentId: number, by: Day): StepLine | null => {
  const { facts, sight, looking } = asking;
  const { columns } = facts;
  if (!mayPay(asking, employmentId)) return null;
  const span = spanOf(columns.rows('employment', employmentId));
  const on = span && span.until <= by ? (addDays(span.until, -1) as Day) : by;
  const next = nextStep(columns, employmentId, on);
  if (!next?.due || next.due > by || (span && next.due >= span.until)) return null;
  const placement =
    primaryPlacement(columns, employmentId, next.due) ?? primaryPlacement(columns, employmentId, on);
  const personId = placement && personOf(columns, placement.values, on);
  if (personId === undefined || !sight.person(personId)) return null;
  const positionId = placement?.values.positionId ?? null;
  const isSeen = positionId !== null && sight.position(positionId, dayNumber(on));
  return {
    employmentId,
    personId,
    name: nameIn(columns, personId, looking),
    positionId: isSeen ? positionId : null,
    title: isSeen ? (columns.at('position', positionId, on)?.title ?? '') : '',
    gradeId: next.gradeId,
    grade: columns.at('grade', next.gradeId, on)?.name ?? '',
    step: next.step,
    since: next.since,
    due: next.due,
    amount: next.amount,
    currency: next.pay.values.currency,
    before: next.pay.values.amount,
  };
};
