// One row of a file of people as steps of a draft: somebody new is hired, somebody known changes where the row differs.
import type {
  Bound,
  Contract,
  Day,
  Fault,
  HireInput,
  ImportField,
  Pay,
  Problem,
  Row,
  SectionName,
  Values,
} from '@gremium/contract';
import { hire, NO_CONTRACT } from '../movements/hire';
import { transfer } from '../movements/transfer';
import { payOutsideRange } from '../people/pay-range';
import { mainEmployment, primaryPlacement, type Spell, spellsOf } from '../people/employments';
import { fullTimeAt, inherited, hiresNeedPosition } from '../structure/tree';
import { addDays, isBefore, isOn, later, OPEN, overlaps } from '../time/calendar';
import type { Draft } from '../time/draft';
import { isError, problem, thing } from '../time/problem';
import { isEqual, mend, type Version } from '../time/timeline';
import { type Choice, type LookUps } from './look-ups';
import type { Said } from './read-row';
import type { People } from './recognise';

/** A row that was read, and whom it is about (null: somebody new). */
export type Asked = { said: Said; personId: number | null; on: Day };

export type Applying = { lookUps: LookUps; people: People; nextNumber: () => string | undefined };

export type Applied = {
  what: 'hire' | 'move' | 'other';
  personId: number | null;
  /** The day from which the row holds. */
  on: Day;
  faults: Fault[];
  warnings: Problem[];
};

/** Adds what a row asks for to a draft. Where it has faults the draft is not to be used. */
export const applyRow = (draft: Draft, asked: Asked, applying: Applying): Applied => {
  const applied: Applied = {
    what: 'other',
    personId: asked.personId,
    on: asked.on,
    faults: [],
    warnings: [],
  };
  if (asked.personId === null) hireNew(draft, asked, applying, applied);
  else changeKnown(draft, asked.personId, asked, { applying, applied });
  for (const found of draft.problems) {
    if (isError(found)) applied.faults.push(faultOf(found, asked.said));
    else if (found.severity === 'warning' && found.code !== 'later_versions') applied.warnings.push(found);
  }
  return applied;
};

// Fields of movements as they are called in a file.
const FIELDS: Record<string, ImportField> = {
  positionId: 'position',
  unitId: 'unit',
  jobId: 'job',
  locationId: 'location',
  workerTypeId: 'workerType',
  legalEntityId: 'legalEntity',
  reportsToId: 'manager',
  firstDay: 'firstDay',
  lastDay: 'lastDay',
  hours: 'hours',
  person: 'firstDay',
  name: 'family',
  contacts: 'email',
  birthDate: 'birthDate',
  number: 'number',
  reasonId: 'reason',
};

/** A problem of a movement or a law, at the cell that it is about. What was not said at all is missing. */
export const faultOf = (found: Problem, said: Said): Fault => {
  const field = FIELDS[found.field?.split('.').at(-1) ?? ''] ?? null;
  const isMissing = found.code === 'value_invalid' && field !== null && said[field] === undefined;
  return {
    field: field === 'hours' && said.hours === undefined && said.fte !== undefined ? 'fte' : field,
    problem: isMissing ? problem('value_missing') : found,
    offers: [],
  };
};

const fault = (field: ImportField, found: Problem, ...offers: string[]): Fault => ({
  field,
  problem: found,
  offers,
});

/** Full-time hours where a row places somebody: by the position's location, else the row's or the unit's. */
const fullTimeFor = (draft: Draft, { said, on }: Asked): number => {
  const { register } = draft;
  const position =
    said.position === undefined
      ? { unitId: said.unit ?? 0, locationId: said.location ?? null, costCentreId: null, legalEntityId: null }
      : register.at('position', said.position, on);
  const location = position ? inherited(register, position, 'locationId', on).value : null;
  return fullTimeAt(register, location, on).hours;
};

const hoursOf = (draft: Draft, asked: Asked, fullTime = fullTimeFor(draft, asked)): number | undefined => {
  const { hours, fte } = asked.said;
  if (hours !== undefined) return hours;
  return fte === undefined ? undefined : Math.round((fte * fullTime) / 100);
};

const hireNew = (draft: Draft, asked: Asked, applying: Applying, applied: Applied): void => {
  const { said } = asked;
  const { faults } = applied;
  applied.what = 'hire';
  if (!said.firstDay) faults.push(fault('firstDay', problem('value_missing')));
  if (!said.given && !said.family) faults.push(fault('family', problem('name_missing')));
  if (!said.email && !said.phone) faults.push(fault('email', problem('contact_missing')));
  const { firstDay } = said;
  if (!firstDay || faults.length > 0) return;
  const terms = termsOf(draft, asked, faults);
  if (!terms) return;
  const contacts = (['email', 'phone'] as const).flatMap((kind) => {
    const value = said[kind];
    return value ? [{ kind, value }] : [];
  });
  const number = said.number ?? applying.nextNumber();
  applied.on = firstDay;
  const hired = hire(draft, {
    ...terms,
    firstDay,
    person: {
      ...(number === undefined ? {} : { number }),
      name: {
        given: said.given ?? null,
        middle: said.middle ?? null,
        family: said.family ?? null,
        preferred: said.preferred ?? null,
      },
      birthDate: said.birthDate ?? null,
      gender: said.gender ?? null,
      nationality: said.nationality ?? null,
      language: said.language ?? null,
      contacts,
    },
  });
  applied.personId = hired?.personId ?? null;
  comparePlace(draft, { ...asked, on: firstDay }, applying.lookUps, {
    positionId: hired?.positionId,
    faults,
  });
};

type Terms = Omit<HireInput, 'person' | 'firstDay'>;

// What a hire needs beside the person; null where a part of it is missing.
const termsOf = (draft: Draft, asked: Asked, faults: Fault[]): Terms | null => {
  const { said } = asked;
  const contract = contractOf(draft, asked);
  if (contract === 'kind_missing') faults.push(fault('contract', problem('value_missing')));
  const pay = payOf(draft, asked, said.legalEntity ?? entityOf(draft, asked));
  if (pay === 'currency_missing') faults.push(fault('currency', problem('value_missing')));
  if (said.position === undefined && said.unit === undefined)
    faults.push(fault('position', problem('value_missing')));
  const hours = hoursOf(draft, asked);
  if (faults.length > 0 || contract === 'kind_missing' || pay === 'currency_missing') return null;
  const needs = said.position === undefined && said.unit !== undefined;
  return {
    ...optional({
      positionId: said.position,
      unitId: needs ? said.unit : undefined,
      jobId: needs ? said.job : undefined,
      locationId: needs ? said.location : undefined,
      legalEntityId: said.legalEntity,
      workerTypeId: said.workerType,
      hours,
      contract: contract ?? undefined,
      seniorityDate: said.seniorityDate,
    }),
    lastDay: said.lastDay ?? null,
    pay: pay ? [pay] : [],
    reasonId: said.reason ?? null,
  };
};

// Leaves out what is undefined.
const optional = <T extends object>(fields: T): { [K in keyof T]?: Exclude<T[K], undefined> } =>
  Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)) as never;

const entityOf = ({ register }: Draft, { said, on }: Asked): number | null => {
  const position =
    said.position === undefined
      ? said.unit === undefined
        ? undefined
        : { unitId: said.unit, locationId: null, costCentreId: null, legalEntityId: null }
      : register.at('position', said.position, on);
  return position ? inherited(register, position, 'legalEntityId', on).value : null;
};

type Probation = Pick<Contract, 'fixedUntil' | 'probationUntil' | 'probation'>;

const probationOf = ({ fixedUntil, probationUntil }: Said): Partial<Probation> => ({
  ...optional({ fixedUntil, probationUntil }),
  ...(probationUntil === undefined
    ? {}
    : { probation: probationUntil === null ? null : ('running' as const) }),
});

const contractOf = (
  { register }: Draft,
  { said, on }: Asked,
): (Partial<Contract> & { kindId: number }) | 'kind_missing' | null => {
  const { contract, fixedUntil, probationUntil } = said;
  if (contract === undefined && !fixedUntil && !probationUntil) return null;
  const unitId = said.unit ?? register.at('position', said.position ?? 0, on)?.unitId;
  const usual = unitId === undefined ? null : register.at('unit_hiring', unitId, on)?.contractKindId;
  const kindId = contract ?? usual ?? null;
  return kindId === null ? 'kind_missing' : { kindId, ...probationOf(said) };
};

type Component = Omit<Pay, 'employmentId' | 'reasonId'>;

/** The base pay component of the organisation: what pay is where a file does not say. */
const basePay = ({ register }: Draft): number | null => {
  for (const { thing, values } of register.all('list_entry'))
    if (values.list === 'pay_kind' && values.flags.base) return thing;
  return null;
};

const payOf = (
  draft: Draft,
  { said, on }: Asked,
  entityId: number | null,
): Component | 'currency_missing' | null => {
  if (said.pay === undefined) return null;
  const kindId = said.payKind ?? basePay(draft);
  const usual = entityId === null ? undefined : draft.register.at('legal_entity', entityId, on)?.currency;
  const currency = said.currency ?? usual;
  if (kindId === null || currency === undefined) return 'currency_missing';
  return { kindId, amount: said.pay, currency, basis: said.basis ?? 'month', rate: 'full_time' };
};

// A file may say unit, job and location beside the position: they must be what the position says.
const comparePlace = (
  { register }: Draft,
  { said, on }: Asked,
  lookUps: LookUps,
  { positionId, faults }: { positionId: number | undefined; faults: Fault[] },
): void => {
  const position = positionId === undefined ? undefined : register.at('position', positionId, on);
  if (!position) return;
  const values: [ImportField & keyof Said, Choice, number | null][] = [
    ['unit', 'unit', position.unitId],
    ['job', 'job', position.jobId],
    ['location', 'location', inherited(register, position, 'locationId', on).value],
  ];
  for (const [field, choice, value] of values) {
    if (said[field] === undefined || said[field] === value) continue;
    const now = value === null ? '–' : lookUps.codeOf(choice, value, on);
    faults.push(fault(field, problem('place_differs', { now }), ...(value === null ? [] : [now])));
  }
};

type Changing = { applying: Applying; applied: Applied };

const changeKnown = (draft: Draft, personId: number, asked: Asked, changing: Changing): void => {
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
  if (running?.values.amount !== component.amount) warnOfRange(draft, employmentId, component, on);
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

const warnOfRange = ({ register, problems }: Draft, employmentId: number, pay: Component, on: Day): void => {
  const placement = primaryPlacement(register, employmentId, on)?.values;
  const position = placement && register.at('position', placement.positionId, on);
  if (!position) return;
  const { hours, fullTime } = placement;
  problems.push(...payOutsideRange(register, pay, { gradeId: position.gradeId, hours, fullTime }, on));
};
