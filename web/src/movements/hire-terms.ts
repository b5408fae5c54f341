// What hire and rehire ask alike: where, from when, on what terms.
import type { Values } from '@gremium/contract';
import { type RangeSaid, fullTimeOf, payRange, rangeIn, usualDays } from '@gremium/core';
import type { SlipContext, SlipRow } from './slip-declared';

/** From a position nothing more is asked of where; from a unit, which of its positions, or else which job. */
export const hireRows = ({ about, input }: SlipContext): SlipRow[] => [
  ...(about.kind === 'unit' ? ['positionId'] : []),
  ...(!input['positionId'] && (about.kind === 'unit' || input['unitId']) ? ['jobId'] : []),
  ['firstDay', 'pay.0.amount'],
  ['contract.kindId', 'reasonId'],
];

export const hireMore: SlipRow[] = [
  ['hours', 'locationId'],
  ['workerTypeId', 'legalEntityId'],
  ['above.aboveReason', 'above.reviewOn'],
];

/** The terms as they are sent: a contract always, fixed until the last day where there is one. */
export const hireTerms = (input: Record<string, unknown>, _context: SlipContext) => {
  const { lastDay, positionId } = input;
  const contract = (input['contract'] ?? {}) as object;
  const { unitId: _, jobId: __, ...others } = input;
  // a position says its unit and job itself
  const where = positionId ? others : input;
  return { ...where, contract: lastDay ? { fixedUntil: lastDay, ...contract } : contract };
};

const positionOf = ({ input, showing, day }: SlipContext): Values<'position'> | undefined => {
  const id = input['positionId'];
  return typeof id === 'number' && day ? showing.register.at('position', id, day) : undefined;
};

type Paid = { currency: string; range: RangeSaid | undefined };

// Currency of the place, and the range of its grade, as far as they are known.
const paidAt = (context: SlipContext): Paid => {
  const { showing, input, day } = context;
  const entityId = typeof input['positionId'] === 'number' ? showing.entityOf(input['positionId']) : null;
  const currency = entityId && day ? showing.register.at('legal_entity', entityId, day)?.currency : undefined;
  const position = positionOf(context);
  const gradeId = position?.gradeId;
  const range = gradeId && currency && day ? payRange(showing.register, gradeId, currency, day) : undefined;
  if (!range || !position || !day) return { currency: currency ?? '', range: undefined };
  // a slip asks for the full-time rate of a month
  const fullTime = fullTimeOf(showing.register, position, day).hours;
  const worked = {
    gradeId: gradeId ?? null,
    hours: fullTime,
    fullTime,
    days: usualDays(showing.register, day),
  };
  return { currency: range.currency, range: rangeIn({ basis: 'month', rate: 'full_time' }, worked, range) };
};

/** Whether it is known where somebody is hired: a position, or a unit and a job. */
export const hasPlace = ({ positionId, unitId, jobId }: Record<string, unknown>): boolean =>
  Boolean(positionId) || (Boolean(unitId) && Boolean(jobId));

/** What the next hire has alike: unit, day and contract; of a position that was taken its unit. */
export const alikeHire = ({ about, input, showing, day }: SlipContext) => {
  const { person: _, pay: __, positionId, ...kept } = input;
  const position =
    typeof positionId === 'number' && day ? showing.register.at('position', positionId, day) : undefined;
  if (!position) return { about, input: kept };
  return { about: { kind: 'unit', id: position.unitId }, input: { ...kept, unitId: position.unitId } };
};

/** Under pay that is not typed yet: the currency and the range. */
export const notedPay = (path: string, context: SlipContext): string | undefined => {
  if (path !== 'pay.0.amount') return undefined;
  const { currency, range } = paidAt(context);
  return range ? `${currency}, ${context.rangeInWords(range)}` : currency || undefined;
};

/** Pay as it is understood: "26,400.00 EUR a month, range 2,050–3,000"; nothing for other fields. */
export const understoodPay = (path: string, value: unknown, context: SlipContext): string | undefined =>
  path === 'pay.0.amount'
    ? context.payInWords({ amount: String(value), basis: 'month', ...paidAt(context) })
    : undefined;
