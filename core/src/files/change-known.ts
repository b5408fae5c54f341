// A row about somebody on the register: what differs is changed from a day on, in the draft.
import type { Bound, Day, ImportField, Row, SectionName, Values, Fault } from '@gremium/contract';
import { hire, NO_CONTRACT } from '../movements/hire';
import { transfer } from '../movements/transfer';
import { mainEmployment, primaryPlacement, type Spell, spellsOf } from '../people/employments';
import { hiresNeedPosition } from '../structure/tree';
import { addDays, isBefore, isOn, later, OPEN, overlaps } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem, thing } from '../time/problem';
import { isEqual, mend, type Version } from '../time/timeline';
import type { Choice } from './look-ups';
import type { Said } from './read-row';
import {
  type Applied,
  type Applying,
  type Asked,
  comparePlace,
  contractOf,
  fault,
  hoursOf,
  optional,
  payOf,
  probationOf,
  termsOf,
} from './row-terms';

type Changing = { applying: Applying; applied: Applied };

/** Carries out what a row says about somebody who is known. */
export const changeKnown = (draft: Draft, personId: number, asked: Asked, changing: Changing): void => {
  const { said } = asked;
  const { faults } = changing.applied;
  const spells = spellsOf(draft.register, personId);
  const found = employmentFor(spells, asked);
  if (found === 'other_first_day') {
    const running = spells.find((spell) => isOn(spell, said.firstDay as Day)) ?? spells.at(-1);
    faults.push(
      fault('firstDay', problem('value_fixed', { now: running?.from ?? '' }), String(running?.from)),
    );
    return;
  }
  if (found === 'rehire') {
    rehire(draft, personId, asked, changing);
    return;
  }
  const on = found ? dayWithin(found, asked) : asked.on;
  changing.applied.on = on;
  const here = { ...asked, on };
  changePerson(draft, personId, here);
  for (const kind of ['email', 'phone'] as const) changeContact(draft, personId, kind, here);
  if (found) changeEmployment(draft, found, here, changing);
  else if (saysPlace(said)) {
    const params = { person: thing('person', personId), day: on };
    faults.push(fault('firstDay', problem('employment_unknown', params)));
  }
};

const PLACED = ['position', 'unit', 'job', 'hours', 'fte', 'contract', 'pay', 'manager', 'lastDay'] as const;
const saysPlace = (said: Said): boolean => PLACED.some((field) => said[field] !== undefined);

// Which employment a row means: the one that began on its first day, else the one running, else the next.
const employmentFor = (
  spells: readonly Spell[],
  { said, on }: Asked,
): Spell | 'other_first_day' | 'rehire' | undefined => {
  const { firstDay, legalEntity } = said;
  if (!firstDay) return mainEmployment(spells, on) ?? spells.find(({ from }) => isBefore(on, from));
  const begun = spells.find(({ from }) => from === firstDay);
  if (begun) return begun;
  const period = { from: firstDay, until: said.lastDay ? addDays(said.lastDay, 1) : OPEN };
  const isSame = ({ rows }: Spell) =>
    legalEntity === undefined || rows[0]?.values.legalEntityId === legalEntity;
  return spells.some((spell) => overlaps(spell, period) && isSame(spell)) ? 'other_first_day' : 'rehire';
};

// Before an employment a row holds from its first day, after it on its last.
const dayWithin = ({ from, until }: Spell, { on }: Asked): Day =>
  isBefore(on, until) ? (later(on as Bound, from) as Day) : (addDays(until, -1) as Day);

const rehire = (draft: Draft, personId: number, asked: Asked, { applying, applied }: Changing): void => {
  const firstDay = asked.said.firstDay as Day;
  const here = { ...asked, on: firstDay };
  const terms = termsOf(draft, here, applied.faults);
  if (!terms) return;
  applied.what = 'hire';
  applied.on = firstDay;
  const hired = hire(draft, { ...terms, firstDay, person: { id: personId } });
  changePerson(draft, personId, here);
  for (const kind of ['email', 'phone'] as const) changeContact(draft, personId, kind, here);
  comparePlace(draft, here, applying.lookUps, { positionId: hired?.positionId, faults: applied.faults });
};

const changePerson = (draft: Draft, personId: number, { said, on }: Asked): void => {
  const { given, middle, family, preferred, gender, nationality, language, birthDate } = said;
  change(draft, 'person_name', personId, { on, values: optional({ given, middle, family, preferred }) });
  change(draft, 'person', personId, { on, values: optional({ gender, nationality, language }) });
  if (birthDate === undefined) return;
  // nobody is born anew: the birth date was recorded wrongly
  for (const row of [...draft.register.rows('person', personId)])
    if (row.values.birthDate !== birthDate)
      draft.revise('person', personId, mend(row as unknown as Version, { birthDate }));
};

// Sets what differs on a day; what is equal writes nothing.
const change = <S extends SectionName>(
  draft: Draft,
  section: S,
  thing: number,
  { on, values }: { on: Bound; values: object },
): void => {
  const now = draft.register.at(section, thing, on) as Record<string, unknown> | undefined;
  if (!now) return;
  const differing = Object.entries(values).filter(([field, value]) => !isEqual(now[field], value));
  if (differing.length > 0)
    draft.set(section, thing, { from: on, values: Object.fromEntries(differing) as Partial<Values<S>> });
};

const changeContact = (
  draft: Draft,
  personId: number,
  kind: 'email' | 'phone',
  { said, on }: Asked,
): void => {
  const value = said[kind];
  if (value === undefined) return;
  const now = draft.register
    .referrers('contact', 'personId', personId)
    .filter((row) => row.values.kind === kind && isOn(row, on));
  if (now.some((row) => row.values.value.toLowerCase() === value?.toLowerCase())) return;
  const main = now.find((row) => row.values.primary) ?? now[0];
  if (value === null) for (const row of now) draft.cutFrom('contact', row.thing, on);
  else if (main) draft.set('contact', main.thing, { from: on, values: { value } });
  else draft.create('contact', on, { personId, kind, use: 'work', value, primary: true });
};

const changeEmployment = (draft: Draft, spell: Spell, asked: Asked, changing: Changing): void => {
  const { said, on } = asked;
  const { faults } = changing.applied;
  const { lookUps } = changing.applying;
  const { legalEntityId, workerTypeId, seniorityDate } = (spell.rows[0] as Row<'employment'>).values;
  const fixed: [ImportField & keyof Said, Choice, number][] = [
    ['workerType', 'worker_type', workerTypeId],
    ['legalEntity', 'legal_entity', legalEntityId],
  ];
  for (const [field, choice, value] of fixed)
    if (said[field] !== undefined && said[field] !== value) {
      const now = lookUps.codeOf(choice, value, on);
      faults.push(fault(field, problem('value_fixed', { now }), now));
    }
  const lastDay = spell.until === OPEN ? null : (addDays(spell.until, -1) as Day);
  if (said.lastDay && said.lastDay !== lastDay)
    faults.push(fault('lastDay', problem('value_fixed', { now: lastDay ?? 'infinity' }), lastDay ?? ''));
  if (said.seniorityDate !== undefined && said.seniorityDate !== seniorityDate)
    change(draft, 'employment', spell.id, { on: spell.from, values: { seniorityDate: said.seniorityDate } });
  const employmentId = changePlace(draft, spell, asked, changing);
  if (faults.length > 0) return;
  changeContract(draft, employmentId, asked, { until: spell.until, faults });
  changePay(draft, employmentId, asked, { until: spell.until, faults });
};

// Returns the employment that goes on: a move to another legal entity begins another.
const changePlace = (draft: Draft, spell: Spell, asked: Asked, { applying, applied }: Changing): number => {
  const { said, on } = asked;
  const placement = primaryPlacement(draft.register, spell.id, on);
  if (!placement) return spell.id;
  const position = draft.register.at('position', placement.values.positionId, on);
  const isElsewhere =
    said.position === undefined
      ? (said.unit !== undefined && said.unit !== position?.unitId) ||
        (said.job !== undefined && said.job !== position?.jobId)
      : said.position !== placement.values.positionId;
  if (!isElsewhere) {
    comparePlace(draft, asked, applying.lookUps, {
      positionId: placement.values.positionId,
      faults: applied.faults,
    });
    const hours = hoursOf(draft, asked, placement.values.fullTime);
    if (hours !== undefined && hours !== placement.values.hours)
      change(draft, 'placement', placement.thing, {
        on,
        values: { hours, ...optional({ reasonId: said.reason }) },
      });
    return spell.id;
  }
  applied.what = 'move';
  if (on === spell.from || (said.position === undefined && said.unit === undefined)) {
    const [field, now] =
      said.position === undefined
        ? ([said.unit === undefined ? 'job' : 'unit', placeName(draft, asked, placement, applying)] as const)
        : (['position', applying.lookUps.codeOf('position', placement.values.positionId, on)] as const);
    applied.faults.push(fault(field, problem('value_fixed', { now }), now));
    return spell.id;
  }
  const needs = said.position === undefined;
  if (needs && said.unit !== undefined && hiresNeedPosition(draft.register, said.unit, on)) {
    applied.faults.push(fault('position', problem('value_missing')));
    return spell.id;
  }
  const moved = transfer(draft, {
    personId: (spell.rows[0] as Row<'employment'>).values.personId,
    firstDay: on,
    ...optional({
      positionId: said.position,
      unitId: needs ? said.unit : undefined,
      jobId: needs ? said.job : undefined,
      locationId: needs ? said.location : undefined,
      hours: hoursOf(draft, asked),
    }),
    reasonId: said.reason ?? null,
  });
  comparePlace(draft, asked, applying.lookUps, { positionId: moved?.positionId, faults: applied.faults });
  return moved?.employmentId ?? spell.id;
};

const placeName = (
  { register }: Draft,
  { said, on }: Asked,
  { values }: Row<'placement'>,
  { lookUps }: Applying,
): string => {
  const position = register.at('position', values.positionId, on);
  if (!position) return '';
  return said.unit === undefined
    ? lookUps.codeOf('job', position.jobId, on)
    : lookUps.codeOf('unit', position.unitId, on);
};

type Ending = { until: Bound; faults: Fault[] };

const changeContract = (
  draft: Draft,
  employmentId: number,
  asked: Asked,
  { until, faults }: Ending,
): void => {
  const { said, on } = asked;
  const running = draft.register
    .referrers('contract', 'employmentId', employmentId)
    .find((row) => isOn(row, on));
  if (running) {
    const isProbation =
      said.probationUntil !== undefined && said.probationUntil !== running.values.probationUntil;
    const { probation, ...dates } = probationOf(said);
    const values = {
      ...optional({ kindId: said.contract }),
      ...dates,
      ...(isProbation ? { probation } : {}),
    };
    change(draft, 'contract', running.thing, { on, values });
    return;
  }
  const contract = contractOf(draft, asked);
  if (contract === 'kind_missing') faults.push(fault('contract', problem('value_missing')));
  else if (contract) draft.create('contract', on, { ...NO_CONTRACT, ...contract, employmentId }, until);
};

const changePay = (draft: Draft, employmentId: number, asked: Asked, { until, faults }: Ending): void => {
  const { said, on } = asked;
  if (said.pay === undefined) return;
  const entity = draft.register.at('employment', employmentId, on)?.legalEntityId ?? null;
  const component = payOf(draft, asked, entity);
  if (component === null) return;
  if (component === 'currency_missing') {
    faults.push(fault('currency', problem('value_missing')));
    return;
  }
  const running = draft.register
    .referrers('pay', 'employmentId', employmentId)
    .find((row) => isOn(row, on) && row.values.kindId === component.kindId);
  if (!running) {
    draft.create('pay', on, { ...component, employmentId, reasonId: said.reason ?? null }, until);
    return;
  }
  const { amount, currency, basis } = component;
  change(draft, 'pay', running.thing, {
    on,
    values: {
      amount,
      ...(said.currency === undefined ? {} : { currency }),
      ...(said.basis === undefined ? {} : { basis }),
    },
  });
};
