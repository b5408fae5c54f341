// An honour given to one person or, by one order, to many: whoever may not have it is named and left out, the others get theirs.
import type { Day, GiveHonourInput, Row } from '@gremium/contract';
import { OPEN, isBefore } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import { type Version, mend } from '../time/timeline';
import { honourForbids, isSeries, meaningOf, nextOrdinal } from '../people/record-laws';
import type { Concerned, Decide } from './decide';
import { slip } from './place';

type Honours = readonly Row<'award'>[];

const honoursOf = (draft: Draft, personId: number, honourId: number): Honours =>
  draft.register
    .referrers('award', 'personId', personId)
    .filter((row) => row.values.honourId === honourId && row.until === OPEN);

// One of an earlier day was found: those after it that had its number, or followed on it, move up by one.
const moveUp = (draft: Draft, honours: Honours, ordinal: number): Concerned['lines'][number]['values'] => {
  const values: Concerned['lines'][number]['values'] = [];
  let taken = ordinal;
  for (const row of [...honours].sort((a, b) => (a.values.ordinal ?? 0) - (b.values.ordinal ?? 0))) {
    if (row.values.ordinal !== taken) continue;
    taken += 1;
    draft.revise('award', row.thing, mend(row as unknown as Version, { ordinal: taken }));
    values.push(slip('ordinal', taken, 'before', row.values.ordinal, 'award'));
  }
  return values;
};

const valuesOf = (input: GiveHonourInput, personId: number, ordinal: number | null) => ({
  personId,
  honourId: input.honourId,
  awardedOn: input.awardedOn,
  ordinal,
  issuer: input.issuer ?? null,
  country: input.country ?? null,
  orderKind: input.orderKind ?? null,
  orderNumber: input.orderNumber ?? null,
  orderedOn: input.orderedOn ?? null,
  expiresOn: input.expiresOn ?? null,
  evidence: input.evidence ?? null,
  notes: input.notes ?? null,
});

/**
 * Gives an honour from the day it is awarded. Of a series each gets the number after those awarded before it; later ones move
 * up where their number is needed. Of many, those who may not have it are named (`honour_left_out`) and the rest recorded; one
 * alone is refused with the reason.
 */
export const giveHonour: Decide<'give_honour'> = (draft, input) => {
  const { personIds, honourId, awardedOn } = input;
  const meaning = meaningOf(draft.register, honourId);
  const isAlone = personIds.length === 1;
  if (input.ordinal && !isAlone) draft.problems.push(problem('honour_one_number', {}, 'ordinal'));
  const lines: Concerned['lines'] = [];
  let number: number | null = null;
  for (const [i, personId] of personIds.entries()) {
    const honours = honoursOf(draft, personId, honourId);
    const ordinal = isSeries(meaning)
      ? (input.ordinal ?? nextOrdinal(honours, honourId, awardedOn))
      : (input.ordinal ?? null);
    const values = valuesOf(input, personId, ordinal);
    // those after it move up where they have its number
    const numbered = honours.map((row) => (isAfter(awardedOn)(row) ? withoutNumber(row) : row));
    const forbids = honourForbids(draft.register, values, numbered);
    if (forbids && isAlone)
      draft.problems.push({ ...forbids, field: forbids.field === 'personId' ? 'personIds' : forbids.field });
    if (forbids && !isAlone) {
      const params = { ...forbids.params, person: thing('person', personId), why: forbids.code };
      draft.problems.push(problem('honour_left_out', params, `personIds.${i}`));
    }
    if (forbids) continue;
    const moved = isSeries(meaning) ? moveUp(draft, honours.filter(isAfter(awardedOn)), ordinal ?? 1) : [];
    draft.begin('award', draft.newId(), { from: awardedOn, until: OPEN }, values);
    number = ordinal;
    if (!isAlone || moved.length > 0)
      lines.push({
        what: thing('person', personId),
        where: null,
        values: [
          ...(isAlone || ordinal === null ? [] : [slip('ordinal', ordinal, 'preset', null, 'award')]),
          ...moved,
        ],
      });
  }
  if (lines.length === 0 && !isAlone) draft.problems.push(problem('honour_nobody', {}, 'personIds'));
  const isTyped = Boolean(input.ordinal);
  return {
    things: isAlone ? { personId: personIds[0] as number } : {},
    slip: [
      slip('honourId', honourId, 'typed', null, 'award'),
      ...(isAlone && number !== null
        ? [slip('ordinal', number, isTyped ? 'typed' : 'preset', null, 'award')]
        : []),
    ],
    ...(lines.length > 0 ? { concerned: { count: lines.length, lines } } : {}),
  };
};

const isAfter =
  (day: Day) =>
  ({ values }: Row<'award'>): boolean =>
    isBefore(day, values.awardedOn);

const withoutNumber = ({ values }: Row<'award'>) => ({ values: { ...values, ordinal: null } });
