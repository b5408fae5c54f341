// Honours on days that make no sense: still to come, or given by us before somebody was here.
import type { Change, Day, Problem, Row } from '@gremium/contract';
import { isBefore } from '../time/calendar';
import { problem } from '../time/problem';
import type { Register } from '../time/register';
import { spellsOf } from './employments';

// An internal order says that it is given by us, and so do kinds that want our pay or years of service.
const isOurs = (register: Register, { honourId, orderKind }: Row<'award'>['values']): boolean => {
  const { years, paidOnly } = register.rows('list_entry', honourId).at(-1)?.values.flags ?? {};
  return orderKind === 'internal' || (orderKind === null && (years !== undefined || paidOnly === true));
};

/** Asks of an honour that is new, or whose day is another one; those that were earned elsewhere are welcome on any day behind. */
export const awardSense = (
  register: Register,
  { thing, values }: Row<'award'>,
  { superseded }: Change,
  today: Day,
): Problem[] => {
  const said = (superseded as Row[]).some(
    (old) => old.thing === thing && (old as Row<'award'>).values.awardedOn === values.awardedOn,
  );
  if (said) return [];
  if (isBefore(today, values.awardedOn))
    return [problem('honour_ahead', { day: values.awardedOn }, 'awardedOn')];
  const first = spellsOf(register, values.personId)[0]?.from;
  if (first === undefined || !isBefore(values.awardedOn, first) || !isOurs(register, values)) return [];
  return [problem('honour_before_us', { day: first }, 'awardedOn')];
};
