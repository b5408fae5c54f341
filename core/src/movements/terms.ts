// The terms of an employment from a day: hours, contract, pay; something paid once; an employment that goes on longer.
import type {
  Bound,
  ChangePayInput,
  ChangeTermsInput,
  Day,
  ExtendInput,
  PayInput,
  Row,
  SlipValue,
  Values,
} from '@gremium/contract';
import { couldGoOn, spanOf } from '../people/employments';
import { OPEN, addDays, byFrom, isBefore, isOn, lastDay as lastDayOf, later } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem } from '../time/problem';
import type { Decide } from './decide';
import { type Employed, employedOn, saidOf, thingsOf } from './employed';
import { NO_CONTRACT, basePayKind, payOf } from './hire';
import { closeMadeOnHire, slip } from './place';

const hasTurned = (draft: Draft, from: Day, last: Bound | null | undefined, field = 'lastDay'): boolean => {
  if (!last || !isBefore(last, from)) return false;
  draft.problems.push(problem('period', { from, until: last }, field));
  return true;
};

// Hours of the primary place, from the first day or until a last one; what was before and is then stands in the slip.
const changeHours = (draft: Draft, employed: Employed, input: ChangeTermsInput): SlipValue[] => {
  const { hours, firstDay, lastDay, above } = input;
  const { primary } = employed;
  if (hours === undefined || !primary) return [];
  const { hours: was, fullTime } = primary.values;
  draft.set('placement', primary.thing, {
    from: firstDay,
    ...(lastDay ? { until: addDays(lastDay, 1) } : {}),
    values: { hours, ...saidOf(above ?? {}) },
  });
  return [slip('hours', hours, 'typed', was), slip('fullTime', fullTime, 'before', fullTime)];
};

// A contract of another kind follows the one there is; else the one there is says something else from the day.
const changeContract = (draft: Draft, employed: Employed, input: ChangeTermsInput): SlipValue[] => {
  const said = saidOf(input.contract ?? {});
  if (Object.keys(said).length === 0) return [];
  const { employmentId, span } = employed;
  const { firstDay } = input;
  const running = draft.register
    .referrers('contract', 'employmentId', employmentId)
    .find((row) => isOn(row, firstDay));
  const kindId = said.kindId ?? running?.values.kindId;
  if (kindId === undefined) {
    draft.problems.push(problem('value_missing', {}, 'contract.kindId'));
    return [];
  }
  if (running && kindId === running.values.kindId)
    draft.set('contract', running.thing, { from: firstDay, values: said });
  else {
    if (running) draft.cutFrom('contract', running.thing, firstDay);
    const kept = running ? { daysAWeek: running.values.daysAWeek } : {};
    draft.create(
      'contract',
      firstDay,
      { ...NO_CONTRACT, ...kept, ...said, kindId, employmentId },
      span.until,
    );
  }
  return Object.entries(said).map(([field, value]) =>
    slip(field, value as SlipValue['after'], 'typed', running?.values[field as 'kindId'] ?? null, 'contract'),
  );
};

type Paying = {
  firstDay: Day;
  reasonId: number | null;
  laterOnes?: ChangePayInput['laterOnes'];
};

/**
 * Pay from a day, component by component: each takes the place of the one of its kind and goes on as that one where it says
 * nothing else. Later changes stay as planned (`later_versions`, unless that was decided), or give way.
 */
export const payFrom = (
  draft: Draft,
  { employmentId, row, span }: Employed,
  given: readonly PayInput[],
  { firstDay, reasonId, laterOnes }: Paying,
): SlipValue[] =>
  given.flatMap((component) => {
    const { register } = draft;
    const kindId = component.kindId ?? basePayKind(register, firstDay);
    const running = register
      .referrers('pay', 'employmentId', employmentId)
      .find((one) => one.values.kindId === kindId && isOn(one, firstDay));
    const before = running?.values;
    const found = payOf(draft, { ...before, ...saidOf(component) } as PayInput, {
      legalEntityId: row.values.legalEntityId,
      on: firstDay,
    });
    if (!found) return [];
    const values = { ...found.values, reasonId };
    putPay(draft, { ...values, employmentId }, { from: firstDay, until: span.until, laterOnes });
    const told = (field: 'amount' | 'currency' | 'basis' | 'rate', source: SlipValue['source']): SlipValue =>
      slip(field, values[field], source, before?.[field] ?? null, 'pay');
    return [
      slip('kindId', values.kindId, component.kindId ? 'typed' : 'preset', before?.kindId ?? null, 'pay'),
      told('amount', 'typed'),
      told('currency', component.currency ? 'typed' : before ? 'before' : 'legal_entity'),
      ...(['basis', 'rate'] as const).map((field) => told(field, component[field] ? 'typed' : 'before')),
    ];
  });

// Over what is there of its kind: later changes stay as they are, with a word or because that was decided, or give way.
const putPay = (
  draft: Draft,
  values: Values<'pay'>,
  { from, until, laterOnes }: { from: Day; until: Bound; laterOnes: Paying['laterOnes'] },
): void => {
  const { register } = draft;
  const alike = register
    .referrers('pay', 'employmentId', values.employmentId)
    .filter((row) => row.values.kindId === values.kindId && isBefore(from, row.until));
  const running = alike.find((row) => isOn(row, from));
  const [next] = alike.filter((row) => isBefore(from, row.from)).sort(byFrom);
  if (next && laterOnes === undefined) {
    const changed = (['amount', 'currency', 'basis', 'rate'] as const).filter(
      (field) => running?.values[field] !== next.values[field],
    );
    draft.problems.push(problem('later_versions', { fields: changed.join(', ') }, 'laterOnes'));
  }
  const giveWay = laterOnes === 'replace' ? alike : running ? [running] : [];
  const last = giveWay.map((row) => row.until).reduce(later, giveWay[0]?.until ?? next?.from ?? until);
  for (const row of giveWay) replaceRow(draft, row, from);
  draft.begin('pay', running?.thing ?? draft.newId(), { from, until: last }, values);
};

// What of a row lies before the day stays.
const replaceRow = (draft: Draft, row: Row<'pay'>, from: Day): void =>
  draft.revise('pay', row.thing, {
    superseded: [row as never],
    recorded: isBefore(row.from, from) ? [{ from: row.from, until: from, values: row.values }] : [],
    problems: [],
  });

/**
 * Other terms from a day: hours (for good, or until a last day), contract, pay. Errors: `employment_unknown`, `period`,
 * `value_missing` (nothing is said).
 */
export const changeTerms: Decide<'change_terms'> = (draft, input) => {
  const { employmentId, firstDay, lastDay, pay = [], reasonId } = input;
  if (hasTurned(draft, firstDay, lastDay)) return null;
  const employed = employedOn(draft, employmentId, firstDay);
  if (!employed) return null;
  if (lastDay && isBefore(employed.span.until, addDays(lastDay, 1))) {
    const last = lastDayOf(employed.span);
    draft.problems.push(problem('return_after_end', { day: last ?? lastDay }, 'lastDay'));
    return null;
  }
  const told = [
    ...changeHours(draft, employed, input),
    ...changeContract(draft, employed, input),
    ...payFrom(draft, employed, pay, { firstDay, reasonId }),
  ];
  if (told.length === 0) draft.problems.push(problem('value_missing', {}, 'hours'));
  return { things: thingsOf(employed), slip: told };
};

/** Other pay from a day. Errors: `employment_unknown`, `value_missing` (no component is said). */
export const changePay: Decide<'change_pay'> = (draft, input) => {
  const employed = employedOn(draft, input.employmentId, input.firstDay);
  if (!employed) return null;
  if (input.pay.length === 0) draft.problems.push(problem('value_missing', {}, 'pay.0.amount'));
  return { things: thingsOf(employed), slip: payFrom(draft, employed, input.pay, input) };
};

/** Something paid once, in the currency of the legal entity if nothing else is said. Errors: `employment_unknown`. */
export const payOnce: Decide<'pay_once'> = (draft, input) => {
  const { employmentId, paidOn, kindId, amount, reasonId } = input;
  const employed = employedOn(draft, employmentId, paidOn, 'paidOn');
  if (!employed) return null;
  const { legalEntityId } = employed.row.values;
  const currency = input.currency ?? draft.register.at('legal_entity', legalEntityId, paidOn)?.currency;
  if (currency === undefined) {
    draft.problems.push(problem('value_missing', {}, 'currency'));
    return null;
  }
  const values = { employmentId, kindId, amount, currency, paidOn, reasonId };
  draft.create('one_off_payment', paidOn, values, employed.span.until);
  const section = 'one_off_payment';
  return {
    things: thingsOf(employed),
    slip: [
      slip('kindId', kindId, 'typed', null, section),
      slip('amount', amount, 'typed', null, section),
      slip('currency', currency, input.currency ? 'typed' : 'legal_entity', null, section),
    ],
  };
};

// Rows that ended with the employment, of it or of what it owns: they go on until it ends anew.
const goOn = (draft: Draft, rows: readonly Row[], ended: Bound, until: Bound): void => {
  for (const row of rows) if (row.until === ended) draft.stretch(row, until);
};

// A position that was made with the hire closed with its holder: it stands again, as long as it is held.
const standAgain = (draft: Draft, positionId: number, ended: Bound, until: Bound): void => {
  const position = draft.register.at('position', positionId, ended);
  if (!position?.madeOnHire || position.standing !== 'closed') return;
  draft.set('position', positionId, { from: ended, values: { standing: 'in_force' } });
  if (until !== OPEN) closeMadeOnHire(draft, positionId, addDays(until, -1));
};

/**
 * An employment goes on after its last day, to a later one or for good; place, contract, pay and what else ended with it go on.
 * Errors: `value_missing` (no last day is said; null is none), `nothing_to_extend` (`couldGoOn` says what could), `period` (not later than it is).
 */
export const extend: Decide<'extend'> = (draft, input) => {
  const { employmentId, lastDay } = input;
  const { register } = draft;
  if (lastDay === undefined) {
    draft.problems.push(problem('value_missing', {}, 'lastDay'));
    return null;
  }
  const rows = register.rows('employment', employmentId);
  const span = spanOf(rows);
  const last = rows.find((row) => row.until === span?.until);
  if (!span || !last || !couldGoOn(register, employmentId)) {
    draft.problems.push(problem('nothing_to_extend', {}, 'employmentId'));
    return null;
  }
  const ended = span.until;
  const until = lastDay === null ? OPEN : addDays(lastDay, 1);
  if (hasTurned(draft, ended as Day, lastDay)) return null;
  const { catalogue } = register;
  const placed = register
    .referrers('placement', 'employmentId', employmentId)
    .filter((row) => row.until === ended && row.values.kind !== 'temporary');
  const owned = catalogue.belongingTo('employment').flatMap((name) => {
    const { owner, endsWithOwner } = catalogue.section(name);
    return owner && endsWithOwner
      ? (register.referrers(name, owner.field as never, employmentId) as Row[])
      : [];
  });
  goOn(draft, [last], ended, until);
  for (const { values } of placed) standAgain(draft, values.positionId, ended, until);
  goOn(draft, placed, ended, until);
  goOn(draft, owned, ended, until);
  const told = goOnFixed(draft, { ...input, lastDay }, { ended, until });
  const primary = placed.find(({ values }) => values.kind === 'primary');
  if (primary && input.above)
    draft.set('placement', primary.thing, { from: ended, values: saidOf(input.above) });
  return {
    things: thingsOf({ employmentId, personId: last.values.personId, row: last, span, primary }),
    slip: [slip('lastDay', lastDay, 'typed', addDays(ended, -1)), ...told],
  };
};

// Nothing is said again of a contract that was not fixed, and is not.
const setFixed = (
  draft: Draft,
  { thing, values }: Row<'contract'>,
  edit: { from: Bound; values: Partial<Values<'contract'>> },
): void => {
  const isOther = Object.entries(edit.values).some(([field, value]) => values[field as 'kindId'] !== value);
  if (isOther) draft.set('contract', thing, edit);
};

// The contract says how long it is fixed: another kind follows it, else it is fixed until the new last day, or no longer.
const goOnFixed = (
  draft: Draft,
  { employmentId, lastDay, contractKindId, fixedGround }: ExtendInput & { lastDay: Day | null },
  { ended, until }: { ended: Bound; until: Bound },
): SlipValue[] => {
  const running = draft.register
    .referrers('contract', 'employmentId', employmentId)
    .find((row) => isOn(row, ended));
  if (!running) return [];
  const ground = fixedGround === undefined ? {} : { fixedGround };
  const told = [
    slip('fixedUntil', lastDay, 'typed', running.values.fixedUntil, 'contract'),
    ...(contractKindId === undefined
      ? []
      : [slip('kindId', contractKindId, 'typed', running.values.kindId, 'contract')]),
  ];
  if (contractKindId === undefined || contractKindId === running.values.kindId)
    setFixed(draft, running, { from: ended, values: { fixedUntil: lastDay, ...ground } });
  else {
    draft.cutFrom('contract', running.thing, ended);
    const { daysAWeek, noticeByEmployeeDays, noticeByEmployerDays } = running.values;
    const kept = { daysAWeek, noticeByEmployeeDays, noticeByEmployerDays };
    const values = { ...NO_CONTRACT, ...kept, ...ground, fixedUntil: lastDay };
    draft.create('contract', ended, { ...values, kindId: contractKindId, employmentId }, until);
  }
  return told;
};
