import type { LeaveInput, Row, SlipValue } from '@gremium/contract';
import { directReports } from '../structure/manager';
import { addDays, isOn } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import type { Decide, Given } from './decide';
import { endTerms, slip } from './place';

type Employed = Row<'employment'>;

/** Ends an employment with its last day and reason; placements, contracts and pay end with it. */
export const leave = (
  draft: Draft,
  input: LeaveInput,
  given: Given = { today: input.lastDay },
): SlipValue[] | null => {
  const { employmentId, lastDay } = input;
  const current = draft.register.rows('employment', employmentId).find((row) => isOn(row, lastDay));
  if (!current) {
    const params = { employment: thing('employment', employmentId), day: lastDay };
    draft.problems.push(problem('employment_unknown', params, 'lastDay'));
    return null;
  }
  checkDays(draft, input);
  const held = heldAtTheEnd(draft, employmentId, input);
  const reports = handOver(draft, input, held);
  endTerms(draft, employmentId, lastDay);
  const standings = held.flatMap((row) => standAfter(draft, input, row));
  draft.cutFrom('employment', employmentId, addDays(lastDay, 1));
  const ended = draft.register.rows('employment', employmentId).find((row) => isOn(row, lastDay));
  return ended ? [...recordEnd(draft, ended, input, given), ...standings, ...reports] : null;
};

const checkDays = (draft: Draft, input: LeaveInput): void => {
  const { lastDay, noticeOn = null, lastDayAtWork = null } = input;
  for (const [field, day] of Object.entries({ noticeOn, lastDayAtWork }))
    if (day !== null && day > lastDay) draft.problems.push(problem('day_after_last', { day }, field));
  if (noticeOn !== null && noticeOn <= lastDay) checkNotice(draft, input, noticeOn);
};

// Notice runs from the day after it was given; by whom is a matter of the class of the reason.
const checkNotice = (
  draft: Draft,
  input: LeaveInput,
  noticeOn: NonNullable<LeaveInput['noticeOn']>,
): void => {
  const { register } = draft;
  const by = register.at('list_entry', input.reasonId, input.lastDay)?.flags.class;
  if (by !== 'by_employee' && by !== 'by_employer') return;
  const [contract] = register
    .referrers('contract', 'employmentId', input.employmentId)
    .filter((row) => isOn(row, noticeOn));
  const days =
    contract?.values[by === 'by_employee' ? 'noticeByEmployeeDays' : 'noticeByEmployerDays'] ?? null;
  if (days === null) return;
  const earliest = addDays(noticeOn, days);
  if (input.lastDay < earliest)
    draft.problems.push(problem('notice_short', { count: days, earliest }, 'lastDay'));
};

const heldAtTheEnd = (
  { register }: Draft,
  employmentId: number,
  { lastDay }: LeaveInput,
): Row<'placement'>[] =>
  register
    .referrers('placement', 'employmentId', employmentId)
    .filter((row) => row.values.kind === 'primary' && isOn(row, lastDay));

// Who reported to the position reports to another one from then on; else the rule bridges to the next upwards.
const handOver = (
  draft: Draft,
  { reportsToId = null, lastDay }: LeaveInput,
  held: readonly Row<'placement'>[],
) => {
  if (reportsToId === null) return [];
  const from = addDays(lastDay, 1);
  return held.flatMap(({ values: { positionId } }) =>
    directReports(draft.register, positionId, from)
      .flatMap((id) => {
        if (id === reportsToId) return [];
        draft.set('position', id, { from, values: { reportsToId } });
        return slip('reportsToId', reportsToId, 'typed', positionId, 'position');
      })
      .slice(0, 1),
  );
};

const standAfter = (draft: Draft, { positionAfter, lastDay }: LeaveInput, { values }: Row<'placement'>) => {
  const from = addDays(lastDay, 1);
  const was = draft.register.at('position', values.positionId, lastDay)?.standing ?? null;
  const is = draft.register.at('position', values.positionId, from)?.standing ?? null;
  if (positionAfter !== undefined && is !== null && is !== positionAfter)
    draft.set('position', values.positionId, { from, values: { standing: positionAfter } });
  const after = positionAfter ?? is;
  const told = slip('standing', after, positionAfter ? 'typed' : 'position', was, 'position');
  return [slip('positionId', null, 'typed', values.positionId), told];
};

const recordEnd = (draft: Draft, ended: Employed, input: LeaveInput, { today }: Given): SlipValue[] => {
  const { lastDay, reasonId, mayReturn, returnReason } = input;
  const accessUntil = input.accessEnds === 'at_once' ? addDays(today, -1) : lastDay;
  const values = {
    ...ended.values,
    endReasonId: reasonId,
    mayReturn,
    returnReason,
    returnBarredUntil: input.returnBarredUntil ?? null,
    noticeOn: input.noticeOn ?? null,
    lastDayAtWork: input.lastDayAtWork ?? null,
    accessUntil,
  };
  draft.revise('employment', ended.thing, {
    superseded: [ended as never],
    recorded: [{ from: ended.from, until: ended.until, values }],
    problems: [],
  });
  const told = (field: keyof typeof values, source: SlipValue['source'] = 'typed'): SlipValue[] =>
    values[field] === null ? [] : [slip(field, values[field], source, ended.values[field], 'employment')];
  return [
    slip('lastDay', lastDay, 'typed'),
    ...told('endReasonId'),
    ...told('noticeOn'),
    ...told('lastDayAtWork'),
    ...told('mayReturn'),
    ...told('accessUntil', input.accessEnds === undefined ? 'preset' : 'typed'),
  ];
};

/** The leaving as a movement. */
export const decideLeave: Decide<'leave'> = (draft, input, given) => {
  const told = leave(draft, input, given);
  const personId = draft.register.rows('employment', input.employmentId)[0]?.values.personId;
  if (!told || personId === undefined) return null;
  const positionId = told.find(({ field }) => field === 'positionId')?.before;
  return {
    things: {
      personId,
      employmentId: input.employmentId,
      ...(typeof positionId === 'number' ? { positionId } : {}),
    },
    slip: told,
  };
};
