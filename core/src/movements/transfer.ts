import type { Row, SlipValue, TransferInput } from '@gremium/contract';
import type { Draft } from '../time/draft';
import { OPEN, type Period, addDays, isBefore } from '../time/calendar';
import { problem, thing } from '../time/problem';
import { mainEmployment, primaryPlacement, spanOf, spellsOf } from '../people/employments';
import { inherited } from '../structure/tree';
import type { Decide } from './decide';
import { payOf } from './hire';
import { checkRequired } from './required';
import { type Place, closeMadeOnHire, endTerms, findPlace, placementAt } from './place';

/** What a transfer came to. */
export type Transferred = {
  employmentId: number;
  placementId: number;
  positionId: number;
  /** The person goes on in another employment, because the legal entity changes. */
  continued: boolean;
  slip: SlipValue[];
};

/**
 * A permanent transfer on its first day: the primary placement ends the day before and one at the new place begins. Where
 * the new place belongs to another legal entity, the employment ends as continued and the next one begins that day.
 */
export const transfer = (draft: Draft, input: TransferInput): Transferred | null => {
  const { personId, firstDay } = input;
  const main = mainEmployment(spellsOf(draft.register, personId), firstDay);
  const before = main && primaryPlacement(draft.register, main.id, addDays(firstDay, -1));
  if (!main || !before) {
    draft.problems.push(
      problem('employment_unknown', { person: thing('person', personId), day: firstDay }, 'personId'),
    );
    return null;
  }
  if (before.values.positionId === input.positionId) {
    draft.problems.push(
      problem('same_position', { position: thing('position', input.positionId) }, 'positionId'),
    );
    return null;
  }
  const place = findPlace(draft, input, firstDay);
  if (!place) return null;
  const employment = main.rows.at(-1) as Row<'employment'>;
  const continued = place.legalEntityId !== null && place.legalEntityId !== employment.values.legalEntityId;
  const employmentId = continued
    ? continueIn(draft, { from: firstDay, until: main.until }, employment, place)
    : main.id;
  if (!continued) endPrimary(draft, before, input);
  const period: Period = { from: firstDay, until: main.until };
  const placementId = draft.create(
    'placement',
    period.from,
    placementAt(place, employmentId, input),
    period.until,
  );
  if (main.until !== OPEN) closeMadeOnHire(draft, place.positionId, addDays(main.until, -1));
  const legalEntityId = place.legalEntityId ?? employment.values.legalEntityId;
  const paid = changePay(draft, input, { employmentId, legalEntityId, period });
  return {
    employmentId,
    placementId,
    positionId: place.positionId,
    continued,
    slip: [...compare(draft, before, place, employment.values.legalEntityId), ...paid],
  };
};

const endPrimary = (draft: Draft, before: Row<'placement'>, { firstDay }: TransferInput): void => {
  const { employmentId } = before.values;
  const after = draft.register
    .referrers('placement', 'employmentId', employmentId, { from: firstDay, until: OPEN })
    .filter(({ values }) => values.kind === 'primary');
  const ending = new Set(after.map((row) => row.thing));
  // who was elsewhere for a time is so no longer: nothing is lent by a place that has ended
  const lent = [...ending]
    .flatMap((id) => draft.register.referrers('placement', 'forPlacementId', id))
    .filter(({ values, until }) => values.kind === 'temporary' && isBefore(firstDay, until));
  const left = new Set([...after, ...lent].map(({ values }) => values.positionId));
  for (const id of new Set([...ending, ...lent.map((row) => row.thing)]))
    draft.cutFrom('placement', id, firstDay);
  for (const positionId of left) closeMadeOnHire(draft, positionId, addDays(firstDay, -1));
};

// The next employment takes over what is declared to go on in it, its seniority date carries over.
const continueIn = (draft: Draft, period: Period, old: Row<'employment'>, place: Place): number => {
  const first = spanOf(draft.register.rows('employment', old.thing))?.from ?? old.from;
  const { catalogue } = draft.register;
  const terms = catalogue.belongingTo('employment').flatMap((name) => {
    const { owner, continues } = catalogue.section(name);
    return owner && continues
      ? (draft.register.referrers(name, owner.field as never, old.thing, period) as Row[]).map((row) => ({
          row,
          owner,
        }))
      : [];
  });
  const lastDay = addDays(period.from, -1);
  endTerms(draft, old.thing, lastDay as never);
  draft.cutFrom('employment', old.thing, period.from);
  const employmentId = draft.create(
    'employment',
    period.from,
    {
      ...old.values,
      legalEntityId: place.legalEntityId as number,
      seniorityDate: old.values.seniorityDate ?? (isBefore(first, period.from) ? (first as never) : null),
      continuesId: old.thing,
    },
    period.until,
  );
  for (const { row, owner } of terms)
    draft.create(
      row.section,
      isBefore(row.from, period.from) ? period.from : row.from,
      { ...row.values, [owner.field]: employmentId } as never,
      row.until,
    );
  return employmentId;
};

const changePay = (
  draft: Draft,
  { pay, firstDay, reasonId }: TransferInput,
  { employmentId, legalEntityId, period }: { employmentId: number; legalEntityId: number; period: Period },
): SlipValue[] => {
  if (!pay) return [];
  const running = draft.register.referrers('pay', 'employmentId', employmentId, period);
  const before = running.map(({ values }) => values);
  for (const id of new Set(running.map((row) => row.thing))) draft.cutFrom('pay', id, firstDay);
  return pay.flatMap((component) => {
    const found = payOf(draft, component, { legalEntityId, on: firstDay });
    if (!found) return [];
    draft.create('pay', period.from, { ...found.values, employmentId, reasonId }, period.until);
    const was = before.find(({ kindId }) => kindId === found.values.kindId);
    return found.told.map((one) => ({ ...one, before: was?.[one.field as 'amount'] ?? null }));
  });
};

const compare = (
  { register }: Draft,
  before: Row<'placement'>,
  place: Place,
  legalEntityId: number,
): SlipValue[] => {
  const { positionId, hours, fullTime } = before.values;
  const old = register.at('position', positionId, before.from);
  const was: Record<string, number | null> = {
    positionId,
    hours,
    fullTime,
    unitId: old?.unitId ?? null,
    jobId: old?.jobId ?? null,
    locationId: old ? inherited(register, old, 'locationId', before.from).value : null,
    legalEntityId,
  };
  return place.sources.map((value) => ({ ...value, before: was[value.field] ?? null }));
};

/** The permanent transfer as a movement. */
export const decideTransfer: Decide<'transfer'> = (draft, input) => {
  const done = transfer(draft, input);
  if (!done) return null;
  const { employmentId, positionId, placementId } = done;
  checkRequired(draft, { ...input, positionId, isNew: false });
  return { things: { personId: input.personId, employmentId, positionId, placementId }, slip: done.slip };
};
