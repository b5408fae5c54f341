// Other full-time hours from a day on: the setting, and the placements whose share rests on it.
import type { Bound, ChangeFullTimeInput, Row, Values } from '@gremium/contract';
import { fullTimeOf } from '../structure/tree';
import { OPEN, earlier, isBefore, later } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import type { Concerned, Decide } from './decide';
import { slip } from './place';

type Setting =
  | { section: 'organisation'; id: number; before: number }
  | { section: 'location'; id: number; before: number | null }
  | { section: 'list_entry'; id: number; before: number | null };

const settingOf = (
  { register }: Draft,
  { locationId, agreementId, firstDay }: ChangeFullTimeInput,
): Setting | null => {
  if (agreementId !== undefined) {
    const entry = register.at('list_entry', agreementId, firstDay);
    return entry ? { section: 'list_entry', id: agreementId, before: entry.flags.fullTime ?? null } : null;
  }
  if (locationId !== undefined) {
    const location = register.at('location', locationId, firstDay);
    return location ? { section: 'location', id: locationId, before: location.fullTime } : null;
  }
  for (const row of register.allOn('organisation', firstDay))
    return { section: 'organisation', id: row.thing, before: row.values.fullTime };
  return null;
};

// Writes the setting; answers with the first day on which it is another again.
const write = (draft: Draft, { section, id }: Setting, from: Bound, fullTime: number): Bound => {
  const { register } = draft;
  if (section === 'list_entry') {
    const flags = register.at('list_entry', id, from)?.flags;
    draft.set('list_entry', id, { from, values: { flags: { ...flags, fullTime } } });
  } else if (section === 'location') draft.set('location', id, { from, values: { fullTime } });
  else draft.set('organisation', id, { from, values: { fullTime } });
  const valueOf = ({ values }: Row): number | null | undefined =>
    section === 'list_entry'
      ? (values as Values<'list_entry'>).flags.fullTime
      : (values as Values<'location'>).fullTime;
  return register
    .rows(section, id)
    .filter((row) => isBefore(from, row.from) && valueOf(row) !== fullTime)
    .reduce((first: Bound, row) => earlier(first, row.from), OPEN);
};

type Placement = Values<'placement'>;

// The same share of other full-time hours, in hundredths; where it does not come out even, less by a part of a hundredth, so
// that nobody is over a limit by rounding.
const sameShare = (hours: number, { fullTime }: Placement, now: number): number =>
  Math.floor((hours * now) / fullTime);

const keepingShare = (values: Placement, fullTime: number): Partial<Placement> => ({
  fullTime,
  hours: sameShare(values.hours, values, fullTime),
  lentHours: sameShare(values.lentHours, values, fullTime),
  awayHours: sameShare(values.awayHours, values, fullTime),
  keptHours: null,
});

const keepingHours = (values: Placement, fullTime: number): Partial<Placement> => ({
  fullTime,
  keptHours: fullTime < values.fullTime ? values.hours : null,
});

/**
 * Changes full-time hours from a day on. Placements whose hours came from where the change is are cut that day and keep their
 * share or their hours; those with typed ones stay as they are. Needs all placements, positions, units, locations.
 */
export const changeFullTime: Decide<'change_full_time'> = (draft, input) => {
  const { register } = draft;
  const { firstDay, fullTime, keep } = input;
  const setting = settingOf(draft, input);
  if (!setting) {
    const [kind, id, field] =
      input.agreementId !== undefined
        ? (['list_entry', input.agreementId, 'agreementId'] as const)
        : (['location', input.locationId ?? 0, 'locationId'] as const);
    draft.problems.push(problem('reference_missing', { what: thing(kind, id), day: firstDay }, field));
    return null;
  }
  const placements = [...register.all('placement')].filter(
    ({ until, values }) => isBefore(firstDay, until) && values.fullTimeSource !== 'typed',
  );
  const dayOf = (row: Row<'placement'>): Bound => later(row.from, firstDay);
  const ruleOf = (row: Row<'placement'>) => {
    const position = register.at('position', row.values.positionId, dayOf(row));
    return position && fullTimeOf(register, position, dayOf(row));
  };
  const before = new Map(placements.map((row) => [row.id, ruleOf(row)]));
  const ends = write(draft, setting, firstDay, fullTime);
  const exceptions = new Set(input.others);
  const lines: Concerned['lines'] = [];
  for (const row of placements) {
    const [was, is] = [before.get(row.id), ruleOf(row)];
    if (!was || !is || (was.hours === is.hours && was.source === is.source)) continue;
    const keepsShare = (keep === 'share') !== exceptions.has(row.thing);
    const values: Partial<Placement> = {
      ...(keepsShare ? keepingShare(row.values, is.hours) : keepingHours(row.values, is.hours)),
      fullTimeSource: is.source,
    };
    draft.set('placement', row.thing, { from: dayOf(row), until: earlier(row.until, ends), values });
    lines.push({
      what: thing('placement', row.thing),
      where: thing('position', row.values.positionId),
      values: [
        slip('hours', values.hours ?? row.values.hours, 'before', row.values.hours, 'placement'),
        slip('fullTime', is.hours, is.source, row.values.fullTime, 'placement'),
      ],
    });
  }
  return {
    things: {},
    slip: [slip('fullTime', fullTime, 'typed', setting.before)],
    concerned: { count: new Set(lines.map(({ what }) => what.id)).size, lines },
  };
};
