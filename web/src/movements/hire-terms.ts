// What hire and rehire ask alike: where, from when, on what terms.
import type { Values } from '@gremium/contract';
import { payRange } from '@gremium/core';
import type { SlipContext, SlipRow } from './slip-declared';

/** From a position nothing more is asked of where; from a unit, which job. */
export const hireRows = ({ about, input }: SlipContext): SlipRow[] => [
  ...(about.kind === 'unit' || (input['unitId'] && !input['positionId']) ? ['jobId'] : []),
  ['firstDay', 'pay.0.amount'],
  ['contract.kindId', 'reasonId'],
];

export const hireMore: SlipRow[] = [['hours', 'locationId']];

/** The terms as they are sent: a contract always, fixed until the last day where there is one. */
export const hireTerms = (input: Record<string, unknown>, _context: SlipContext) => {
  const { lastDay } = input;
  const contract = (input['contract'] ?? {}) as object;
  return { ...input, contract: lastDay ? { fixedUntil: lastDay, ...contract } : contract };
};

const positionOf = ({ input, showing, day }: SlipContext): Values<'position'> | undefined => {
  const id = input['positionId'];
  return typeof id === 'number' && day ? showing.register.at('position', id, day) : undefined;
};

type Paid = { currency: string; range: Values<'grade_range'> | undefined };

// Currency of the place, and the range of its grade, as far as they are known.
const paidAt = (context: SlipContext): Paid => {
  const { showing, input, day } = context;
  const entityId = typeof input['positionId'] === 'number' ? showing.entityOf(input['positionId']) : null;
  const currency = entityId && day ? showing.register.at('legal_entity', entityId, day)?.currency : undefined;
  const gradeId = positionOf(context)?.gradeId;
  const range = gradeId && currency && day ? payRange(showing.register, gradeId, currency, day) : undefined;
  return { currency: currency ?? '', range };
};

/** Under pay that is not typed yet: the currency and the range. */
export const notedPay = (path: string, context: SlipContext): string | undefined => {
  if (path !== 'pay.0.amount') return undefined;
  const { currency, range } = paidAt(context);
  const { format } = context;
  return range
    ? `${currency}, ${format.decimal(range.minimum)} – ${format.decimal(range.maximum)}`
    : currency || undefined;
};

/** Pay as it is understood: "26,400.00 EUR a month, range 2,050–3,000"; nothing for other fields. */
export const understoodPay = (path: string, value: unknown, context: SlipContext): string | undefined =>
  path === 'pay.0.amount'
    ? context.payInWords({ amount: String(value), basis: 'month', ...paidAt(context) })
    : undefined;
