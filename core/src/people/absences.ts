// What absences say of the primary places of an employment: how many hours are away on each day. Why is said by absences alone.
import type { Bound, Row } from '@gremium/contract';
import { OPEN, type Period, addDays, byFrom, intersection, isOn, overlaps, segments } from '../time/calendar';
import type { Draft } from '../time/draft';
import type { Offence } from '../time/offence';
import { problem, thing } from '../time/problem';
import type { Register } from '../time/register';

type Placed = Row<'placement'>;
type Absent = Row<'absence'>;

/** Absences of an employment, in the order of their days. */
export const absencesOf = (register: Register, employmentId: number): Absent[] =>
  [...register.referrers('absence', 'employmentId', employmentId)].sort(byFrom);

/** The absence that an employment has on a day. */
export const absenceOn = (register: Register, employmentId: number, on: Bound): Absent | undefined =>
  absencesOf(register, employmentId).find((row) => isOn(row, on));

/**
 * Hours away of a primary place under an absence, in hundredths a week: all that is not lent (or as many as it says), less what is
 * worked already, unless the kind counts whoever comes back step by step as away until the last step.
 */
export const hoursAway = (register: Register, { values }: Placed, { values: said }: Absent): number => {
  const here = values.hours - values.lentHours;
  const stepsAreAway = register.rows('list_entry', said.kindId)[0]?.values.flags.stepsAreAway === true;
  return Math.max(0, Math.min(said.hours ?? here, here) - (stepsAreAway ? 0 : (said.workedAgain ?? 0)));
};

const primaryOf = (register: Register, employmentId: number): Placed[] =>
  register
    .referrers('placement', 'employmentId', employmentId)
    .filter(({ values }) => values.kind === 'primary');

// A place by the days on which absences say the same of it.
const parts = (row: Placed, absences: readonly Absent[]): (Period & { absence: Absent | undefined })[] =>
  segments(absences, row).map((period) => ({
    ...period,
    absence: absences.find((one) => isOn(one, period.from)),
  }));

/** On each day what is away of a primary place is what absences say (`away_unlike`); no two at once (`absence_overlaps`). */
export const absencesFit = (register: Register, employmentId: number): Offence[] => {
  const absences = absencesOf(register, employmentId);
  const employment = thing('employment', employmentId);
  const doubled = absences.slice(1).flatMap((row, i): Offence[] => {
    const before = absences.slice(0, i + 1).find((one) => one.thing !== row.thing && overlaps(one, row));
    if (!before) return [];
    const params = {
      employment,
      from: before.from,
      until: before.until === OPEN ? OPEN : addDays(before.until, -1),
    };
    return [{ problem: problem('absence_overlaps', params, 'firstDay'), rows: [row, before], on: row }];
  });
  if (doubled.length > 0) return doubled;
  return primaryOf(register, employmentId).flatMap((row) =>
    parts(row, absences).flatMap(({ absence, ...on }): Offence[] => {
      const away = absence ? hoursAway(register, row, absence) : 0;
      if (away === row.values.awayHours) return [];
      const rows = absence ? [row, absence] : [row];
      return [{ problem: problem('away_unlike', { employment, day: on.from }, 'awayHours'), rows, on }];
    }),
  );
};

// Employments whose places or absences a draft touches. Of one that it makes nothing is known before.
const touchedBy = ({ change, register }: Draft): Set<number> => {
  const placed = new Set<number>();
  const absent = new Set<number>();
  for (const row of [...change.recorded, ...change.superseded])
    if (row.section === 'placement') placed.add((row as Placed).values.employmentId);
    else if (row.section === 'absence') absent.add((row as Absent).values.employmentId);
  const made = new Set(
    change.recorded.flatMap((row) =>
      row.section === 'employment' &&
      (row as Row<'employment'>).values.continuesId === null &&
      register.rows('employment', row.thing).every(({ entry }) => entry === row.entry) &&
      !change.superseded.some((old) => old.section === 'employment' && old.thing === row.thing)
        ? row.thing
        : [],
    ),
  );
  return new Set([...absent, ...[...placed].filter((id) => !made.has(id))]);
};

/**
 * Makes primary places say what absences say, wherever a draft touched either: more hours, another place, other days. What is no
 * longer away or lent is no longer backfilled.
 */
export const followAbsences = (draft: Draft): void => {
  const { register } = draft;
  for (const employmentId of touchedBy(draft)) {
    const absences = absencesOf(register, employmentId);
    for (const row of primaryOf(register, employmentId))
      for (const { absence, from, until } of parts(row, absences)) {
        const awayHours = absence ? hoursAway(register, row, absence) : 0;
        if (awayHours === row.values.awayHours) continue;
        const backfilled = row.values.backfilled && awayHours + row.values.lentHours > 0;
        const on = intersection(row, { from, until });
        if (on) draft.set('placement', row.thing, { ...on, values: { awayHours, backfilled } });
      }
  }
};
