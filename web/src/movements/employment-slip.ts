// What the slips about somebody's employment have alike: they read the record, and say what stands there now.
import type { Bound, Day, Row, Values } from '@gremium/contract';
import { isBasePay, isOn, lastDay, primaryPlacement, spanOf } from '@gremium/core';
import { rangeOfEmployment } from '../people/pay-in-words';
import { listedFor } from './fits';
import type { SlipContext, SlipDeclaration } from './slip-declared';

/** The employment that a slip is about, and the day it is looked at. */
const employmentOf = ({ input, day }: SlipContext): { id: number; day: Day } | undefined => {
  const id = input['employmentId'];
  return typeof id === 'number' && day ? { id, day } : undefined;
};

/** The pay component that a slip would change: of the kind that was chosen, else base pay. */
export const payNow = (context: SlipContext): Row<'pay'> | undefined => {
  const of = employmentOf(context);
  if (!of) return undefined;
  const { register } = context.showing;
  const chosen = (context.input['pay'] as { kindId?: number }[] | undefined)?.[0]?.kindId;
  return register
    .referrers('pay', 'employmentId', of.id)
    .find(
      (row) =>
        isOn(row, of.day) &&
        (chosen === undefined ? isBasePay(register, row.values) : row.values.kindId === chosen),
    );
};

/** The primary place of the employment on the day. */
export const placeNow = (context: SlipContext): Values<'placement'> | undefined => {
  const of = employmentOf(context);
  return of && primaryPlacement(context.showing.register, of.id, of.day)?.values;
};

/** The contract of the employment on the day. */
export const contractNow = (context: SlipContext): Values<'contract'> | undefined => {
  const of = employmentOf(context);
  return (
    of &&
    context.showing.register.referrers('contract', 'employmentId', of.id).find((row) => isOn(row, of.day))
      ?.values
  );
};

/** First and last day of a thing as the record shows them; null is no last day, undefined is not shown. */
export const daysNow = (
  { showing, input }: SlipContext,
  section: 'employment' | 'absence',
): { firstDay: Bound; lastDay: Bound | null } | undefined => {
  const id = input[`${section}Id`];
  const span = typeof id === 'number' ? spanOf(showing.register.rows(section, id)) : null;
  return span ? { firstDay: span.from, lastDay: lastDay(span) } : undefined;
};

/** Under new pay: what is paid now, and the range of the grade in that form. */
export const payNowInWords = (context: SlipContext): string | undefined => {
  const now = payNow(context)?.values;
  if (!now || !context.day) return undefined;
  const range = rangeOfEmployment(context.showing.register, now, context.day);
  return context.payInWords({ ...now, range });
};

/** New pay as it is understood, with how much more or less it is. */
export const payThenInWords = (value: unknown, context: SlipContext): string | undefined => {
  const now = payNow(context)?.values;
  const given = (context.input['pay'] as Partial<Values<'pay'>>[] | undefined)?.[0];
  const currency = given?.currency ?? now?.currency ?? '';
  const basis = given?.basis ?? now?.basis ?? 'month';
  const isSame = now?.currency === currency && now.basis === basis;
  const range =
    now && context.day
      ? rangeOfEmployment(context.showing.register, { ...now, ...given } as never, context.day)
      : undefined;
  return context.payInWords({
    amount: String(value),
    ...{ currency, basis, range },
    before: isSame ? now.amount : undefined,
  });
};

/** Title, reading and reasons of a slip about somebody's employment. */
export const employmentHead: Pick<SlipDeclaration, 'title' | 'lead' | 'reads' | 'fits' | 'hasBefore'> = {
  title: ({ named, words }) => named('employmentId') || words.title,
  lead: ({ words }) => words.lead,
  reads: (_, { kind, id }) => (kind === 'person' ? { people: [id] } : {}),
  fits: listedFor('change'),
  hasBefore: true,
};

/** Lead and reasons of a slip by which somebody stands in. */
export const standInHead: Pick<SlipDeclaration, 'lead' | 'fits' | 'hasBefore'> = {
  lead: ({ words }) => words.lead,
  fits: listedFor('transfer'),
  hasBefore: true,
};

/** Steps of which nothing was said are not sent. */
export const withoutEmptySteps = (input: Record<string, unknown>): Record<string, unknown> => {
  const { steps, ...others } = input;
  const isSaid = (step: unknown) => typeof step === 'object' && step !== null && Object.keys(step).length > 0;
  const said = Array.isArray(steps) ? steps.filter(isSaid) : [];
  return said.length > 0 ? { ...others, steps: said } : others;
};
