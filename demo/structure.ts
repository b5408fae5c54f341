// The ground of Vessmar Ferries: lists, places, jobs, units and positions. All invented.
import { shippedLeastAges } from '@gremium/server';
import type { Day, Flags, ListName, NewValues } from '@gremium/contract';
import { BEGINNING, type Draft, OPEN } from '@gremium/core';
import type { Plan } from './plan';
import type { Chance } from './random';
import { WORK_LISTS } from './work-lists';

export type Lists = Record<string, number>;

const LISTS: [ListName, string, string, string, Flags][] = [
  ['worker_type', 'EMP', 'Employee', 'Beschäftigte', { paid: true, counted: true }],
  ['worker_type', 'APP', 'Apprentice', 'Auszubildende', { paid: true, counted: true }],
  ['worker_type', 'AGY', 'Agency worker', 'Leiharbeit', { paid: false, counted: false, supplied: true }],
  ['worker_type', 'CON', 'Contractor', 'Freie Mitarbeit', { paid: false, counted: false, supplied: true }],
  ['worker_type', 'VOL', 'Volunteer', 'Ehrenamt', { paid: false, counted: false }],
  ['worker_type', 'BRD', 'Board member', 'Aufsichtsrat', { paid: true, counted: false, unplaced: true }],
  ['contract_kind', 'PERM', 'Permanent', 'Unbefristet', {}],
  ['contract_kind', 'FIX', 'Fixed term', 'Befristet', {}],
  ['contract_kind', 'SEAS', 'Seasonal', 'Saison', {}],
  ['pay_kind', 'BASE', 'Base pay', 'Grundgehalt', { base: true }],
  ['pay_kind', 'SEA', 'Sea allowance', 'Seezulage', {}],
  ['pay_kind', 'ACT', 'Acting allowance', 'Vertretungszulage', {}],
  ['unit_kind', 'COMPANY', 'Company', 'Unternehmen', {}],
  ['unit_kind', 'DIVISION', 'Division', 'Bereich', { division: true }],
  ['unit_kind', 'VESSEL', 'Vessel', 'Schiff', { atSea: true }],
  ['unit_kind', 'SITE', 'Site', 'Standort', {}],
  ['unit_kind', 'DEPARTMENT', 'Department', 'Abteilung', {}],
  ['unit_kind', 'TEAM', 'Team', 'Team', {}],
  ['reason', 'VACANCY', 'Filling a vacancy', 'Besetzung einer freien Stelle', { acts: ['hire', 'transfer'] }],
  ['reason', 'SEASON', 'Summer season', 'Sommersaison', { acts: ['hire'] }],
  ['reason', 'OWNWISH', 'Filling a vacancy, own wish', 'Auf eigenen Wunsch', { acts: ['transfer'] }],
  ['reason', 'REORG', 'Reorganisation', 'Umorganisation', { acts: ['transfer'], administrative: true }],
  ['reason', 'RESIGNED', 'Resigned', 'Eigene Kündigung', { acts: ['leave'], class: 'by_employee' }],
  ['reason', 'DISMISSED', 'Dismissed', 'Kündigung durch uns', { acts: ['leave'], class: 'by_employer' }],
  ['reason', 'TERM', 'Fixed term ended', 'Befristung abgelaufen', { acts: ['leave'], class: 'end_of_term' }],
  ['reason', 'RETIRED', 'Retired', 'Ruhestand', { acts: ['leave'], class: 'retirement' }],
  ['reason', 'DIED', 'Died', 'Verstorben', { acts: ['leave'], class: 'death' }],
  ['reason', 'RAISE', 'Yearly pay round', 'Jährliche Entgeltrunde', { acts: ['change'] }],
  ['job_family', 'NAUT', 'Nautical', 'Nautik', {}],
  ['job_family', 'TECH', 'Technical', 'Technik', {}],
  ['job_family', 'HOTEL', 'Hotel and guests', 'Hotel und Gäste', {}],
  ['job_family', 'PORT', 'Port', 'Hafen', {}],
  ['job_family', 'OFFICE', 'Office', 'Verwaltung', {}],
  ...WORK_LISTS,
];

export const makeLists = (draft: Draft): Lists =>
  Object.fromEntries(
    LISTS.map(([list, code, en, de, flags]) => [
      code,
      draft.create('list_entry', BEGINNING, { list, code, label: { en, de }, flags }),
    ]),
  );

export type Country = { code: string; entity: number; currency: string; fullTime: number; perMonth: number };

// country, legal entity, currency, full-time hours in hundredths, factor of pay to euro
const COUNTRIES: [string, string, string, number, number][] = [
  ['FI', 'Vessmar Ferries Oy', 'EUR', 3750, 1],
  // ranges are one a currency: pay in euros lies about the same ones
  ['EE', 'Vessmar OÜ', 'EUR', 4000, 1.05],
  ['SE', 'Vessmar AB', 'SEK', 4000, 10.5],
  ['DK', 'Vessmar A/S', 'DKK', 3700, 7.6],
  ['NO', 'Vessmar Ferries AS', 'NOK', 3750, 11.8],
  ['DE', 'Vessmar Fähren GmbH', 'EUR', 3900, 1.05],
];

export const makeCountries = (draft: Draft): Country[] =>
  COUNTRIES.map(([code, name, currency, fullTime, perMonth]) => ({
    code,
    currency,
    fullTime,
    perMonth,
    entity: draft.create('legal_entity', BEGINNING, { code: `V-${code}`, name, country: code, currency }),
  }));

const PORTS: [string, string, string][] = [
  ['Helsinki', 'FI', 'Europe/Helsinki'],
  ['Turku', 'FI', 'Europe/Helsinki'],
  ['Tallinn', 'EE', 'Europe/Tallinn'],
  ['Stockholm', 'SE', 'Europe/Stockholm'],
  ['Karlskrona', 'SE', 'Europe/Stockholm'],
  ['Hirtshals', 'DK', 'Europe/Copenhagen'],
  ['Rønne', 'DK', 'Europe/Copenhagen'],
  ['Larvik', 'NO', 'Europe/Oslo'],
  ['Kiel', 'DE', 'Europe/Berlin'],
];

export type Port = { name: string; location: number; country: Country };

/** Least ages on the first day, as they are shipped. */
export const makeLeastAges = (draft: Draft): void => {
  for (const values of shippedLeastAges) draft.create('least_age', BEGINNING, values);
};

export const makePorts = (draft: Draft, countries: Country[]): Port[] =>
  PORTS.map(([name, code, timeZone]) => {
    const country = countries.find((c) => c.code === code) as Country;
    const { fullTime } = country;
    const place = { code: `L-${name.slice(0, 3).toUpperCase()}`, name: `${name} terminal`, city: name };
    const location = draft.create('location', BEGINNING, { ...place, country: code, timeZone, fullTime });
    return { name, country, location };
  });

export type Job = { id: number; code: string; title: string; level: number; grade: number; middle: number };

// code, title, family, level
const JOBS: [string, string, string, number][] = [
  ['MASTER', 'Master', 'NAUT', 8],
  ['CHOFF', 'Chief Officer', 'NAUT', 7],
  ['OFFICER', 'Officer of the Watch', 'NAUT', 5],
  ['BOSUN', 'Bosun', 'NAUT', 4],
  ['DECK', 'Deck Hand', 'NAUT', 2],
  ['CHENG', 'Chief Engineer', 'TECH', 8],
  ['ENG2', 'Second Engineer', 'TECH', 6],
  ['MOTOR', 'Motorman', 'TECH', 3],
  ['HOTELM', 'Hotel Manager', 'HOTEL', 6],
  ['CHEF', 'Head Chef', 'HOTEL', 5],
  ['COOK', 'Cook', 'HOTEL', 3],
  ['WAITER', 'Restaurant Attendant', 'HOTEL', 2],
  ['CABIN', 'Cabin Attendant', 'HOTEL', 1],
  ['SHOP', 'Shop Assistant', 'HOTEL', 2],
  ['HARBM', 'Harbour Manager', 'PORT', 7],
  ['TERMM', 'Terminal Manager', 'PORT', 6],
  ['DUTY', 'Duty Lead', 'PORT', 5],
  ['PAXAG', 'Passenger Agent', 'PORT', 2],
  ['TICKET', 'Ticket Agent', 'PORT', 2],
  ['QUAYM', 'Quay Manager', 'PORT', 6],
  ['BERTH', 'Berth Lead', 'PORT', 4],
  ['LINES', 'Linesman', 'PORT', 2],
  ['YARDM', 'Yard Manager', 'TECH', 7],
  ['FITTER', 'Fitter', 'TECH', 3],
  ['WELDER', 'Welder', 'TECH', 3],
  ['DIR', 'Director', 'OFFICE', 10],
  ['CEO', 'Chief Executive', 'OFFICE', 12],
  ['HEAD', 'Head of Department', 'OFFICE', 8],
  ['LEAD', 'Team Lead', 'OFFICE', 6],
  ['SPEC', 'Specialist', 'OFFICE', 4],
  ['ASSIST', 'Assistant', 'OFFICE', 2],
];

export const makeJobs = (draft: Draft, lists: Lists, countries: Country[]): Map<string, Job> => {
  const grades = Array.from({ length: 13 }, (_, level) => {
    const id = draft.create('grade', BEGINNING, {
      code: `G${level}`,
      name: `Grade ${level}`,
      level,
      steps: 5,
    });
    const middle = 2000 + level * level * 55 + level * 140;
    for (const { currency, perMonth, fullTime } of uniqueCurrencies(countries)) {
      const of = (factor: number) => String(Math.round(middle * perMonth * factor));
      const range = { minimum: of(0.82), middle: of(1), maximum: of(1.2) };
      draft.create('grade_range', BEGINNING, { gradeId: id, currency, ...range, fullTime });
    }
    return { id, middle };
  });
  return new Map(
    JOBS.map(([code, title, family, level]) => {
      const { id: grade, middle } = grades[level] as { id: number; middle: number };
      const values: NewValues<'job'> = {
        code,
        title,
        name: title,
        summary: null,
        familyId: lists[family] as number,
        level,
        gradeId: grade,
        workerTypeId: lists['EMP'] as number,
        fte: 100,
        hours: null,
        mostPositions: null,
        active: true,
      };
      return [code, { id: draft.create('job', BEGINNING, values), code, title, level, grade, middle }];
    }),
  );
};

const uniqueCurrencies = (countries: Country[]): Country[] =>
  countries.filter(({ currency }, i) => countries.findIndex((other) => other.currency === currency) === i);

/** A place that somebody can hold. */
export type Slot = {
  position: number;
  unit: number;
  job: Job;
  port: Port;
  /** First day on which it is free. */
  from: Day;
  handoverDays: number;
  /** Whether hires into its unit need a position. */
  needsPosition: boolean;
};

type Ground = { lists: Lists; jobs: Map<string, Job>; ports: Port[]; start: Day; chance: Chance };

/** Makes the units and their positions; returns every place there is to hold. */
export const makeUnits = (draft: Draft, { lists, jobs, ports, start, chance }: Ground, top: Plan): Slot[] => {
  const slots: Slot[] = [];
  let code = 100;
  const positionIn = (job: Job, unit: number, places: number | null) => {
    const handoverDays = chance.is(0.3) ? 14 : 0;
    const position = draft.create('position', start, {
      code: `P-${code++}`,
      title: job.title,
      jobId: job.id,
      unitId: unit,
      reportsToId: null,
      standing: 'in_force',
      locationId: null,
      costCentreId: null,
      legalEntityId: null,
      gradeId: job.grade,
      hours: null,
      temporary: places === null,
      madeOnHire: false,
      confirmedTop: job.code === 'CEO',
      sources: {
        title: 'job',
        gradeId: 'job',
        hours: 'job',
        averagedOver: 'job',
        ...(places === 1 ? { fte: 'job' as const } : {}),
      },
    });
    const fte = places === null ? null : places * 100;
    draft.begin('position_limits', position, { from: start, until: OPEN }, { places, fte, handoverDays });
    return { position, handoverDays };
  };
  const visit = (
    item: Plan,
    parentId: number | null,
    above: { port: Port; needsPosition: boolean },
  ): void => {
    const port = item.port ?? above.port;
    const needsPosition = item.needsPosition ?? above.needsPosition;
    const unit = draft.newId();
    const costCentreId =
      item.kind === 'TEAM'
        ? null
        : draft.create('cost_centre', BEGINNING, { code: `C-${unit}`, name: item.name });
    const values: NewValues<'unit'> = {
      code: `U-${unit}`,
      name: item.name,
      kindId: lists[item.kind] as number,
      parentId,
      locationId: item.port ? port.location : null,
      costCentreId,
      legalEntityId: item.port ? port.country.entity : null,
      hiresNeedPosition: item.needsPosition ?? (parentId === null ? true : null),
    };
    draft.begin('unit', unit, { from: start, until: OPEN }, values);
    item.staff.forEach(([jobCode, n], i) => {
      const job = jobs.get(jobCode) as Job;
      for (let k = 0; k < n; k++) {
        const made = positionIn(job, unit, 1);
        if (i === 0 && k === 0)
          draft.set('unit', unit, { from: start, values: { headPositionId: made.position } });
        slots.push({ ...made, unit, job, port, from: start, needsPosition });
      }
    });
    for (const [jobCode, places] of [item.crew ?? [], item.season ? [item.season, null] : []] as [
      string?,
      (number | null)?,
    ][]) {
      const job = jobCode && jobs.get(jobCode);
      if (!job || places === undefined) continue;
      const made = positionIn(job, unit, places);
      for (let k = 0; k < (places ?? 2); k++)
        slots.push({ ...made, unit, job, port, from: start, needsPosition });
    }
    for (const next of item.below) visit(next, unit, { port, needsPosition });
  };
  visit(top, null, { port: ports[0] as Port, needsPosition: true });
  return slots;
};
