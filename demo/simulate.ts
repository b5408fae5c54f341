// Ten years of Vessmar Ferries and what is planned after them, act by act through core.
import type { Day, HireInput } from '@gremium/contract';
import {
  ALWAYS,
  type Draft,
  OPEN,
  addDays,
  addMonths,
  endOfMonth,
  fold,
  hire,
  isOn,
  leave,
  startOfMonth,
  transfer,
  followAbsences,
} from '@gremium/core';
import { History } from './history';
import { Names } from './names';
import { Chance } from './random';
import * as calendar from './calendar';
import { organisationPlan } from './plan';
import { declareFacts } from './record-stories';
import * as ground from './structure';
import type { Country, Lists, Slot } from './structure';

export type Options = { seed: number; anchor: Day; people: number; checkLaws: boolean; photos: string[] };

/** Somebody at work, as the generator remembers them. */
export type Worker = {
  personId: number;
  employmentId: number;
  slot: Slot | null;
  country: Country;
  /** First day of what they do now: nothing else happens to them before. */
  since: Day;
  leaving: boolean;
};

/** What people of a country speak, by ISO 639-1. */
const LANGUAGES: Record<string, string> = { FI: 'fi', EE: 'et', SE: 'sv', DK: 'da', NO: 'nb', DE: 'de' };
const OFFICE = 'tuuli.kaskela@vessmar.example';

export class Simulation {
  readonly history: History;
  readonly chance: Chance;
  readonly names: Names;
  readonly workers: Worker[] = [];
  readonly free: Slot[] = [];
  lists!: Lists;
  countries!: Country[];
  jobs!: Map<string, ground.Job>;
  private number = 1000;
  private readonly emails = new Map<string, number>();

  constructor(readonly options: Options) {
    this.history = new History(addMonths(startOfMonth(options.anchor), -120), options);
    this.chance = new Chance(options.seed);
    this.names = new Names(options.seed);
  }

  get start(): Day {
    return addMonths(startOfMonth(this.options.anchor), -120);
  }

  run(): void {
    this.setUp();
    this.takeOver();
    for (let month = this.start; month <= this.options.anchor; month = addMonths(month, 1)) this.month(month);
    this.history.goTo(this.options.anchor);
  }

  act<T>(kind: Parameters<History['act']>[0]['kind'], reason: string, work: (draft: Draft) => T): T {
    return this.history.act({ kind, account: OFFICE, reason }, (draft) => {
      const done = work(draft);
      followAbsences(draft);
      return done;
    });
  }

  private setUp(): void {
    const { start, chance } = this;
    const fleets = Math.max(1, Math.round(this.options.people / 1250));
    this.act('set_up', 'The register begins', (draft) => {
      draft.create('organisation', '-infinity', {
        name: 'Vessmar Ferries',
        address: 'Katajanokanlaituri 9\n00160 Helsinki',
        workingDays: ['mon', 'tue', 'wed', 'thu', 'fri'],
        country: 'FI',
        timeZone: 'Europe/Helsinki',
        languages: ['en', 'de'],
        dateFormat: 'D MMM YYYY',
        currency: 'EUR',
        fiscalMonth: 1,
        weekStart: 1,
        fullTime: 3750,
        figuresFrom: start,
      });
      this.lists = ground.makeLists(draft);
      this.countries = ground.makeCountries(draft);
      ground.makeLeastAges(draft);
      const ports = ground.makePorts(draft, this.countries);
      this.jobs = ground.makeJobs(draft, this.lists, this.countries);
      const top = organisationPlan(ports, { fleets, size: 3 });
      this.free.push(
        ...ground.makeUnits(draft, { lists: this.lists, jobs: this.jobs, ports, start, chance }, top),
      );
      calendar.makeHolidays(draft, ports, Number(this.options.anchor.slice(0, 4)));
      calendar.makeRates(draft, this.countries);
    });
  }

  // The first staff come from an older register in one entry; many began long before.
  private takeOver(): void {
    const count = Math.round(this.free.length * 0.86);
    this.act('import', 'Taken over from paper files', (draft) => {
      for (let i = 0; i < count; i++) {
        const slot = this.chance.take(this.free) as Slot;
        const seniorityDate = addDays(this.start, -this.chance.int(30, 9000));
        this.hireInto(draft, slot, this.start, { seniorityDate });
      }
    });
  }

  /** What ranges came to by the yearly rounds, by currency. */
  private readonly raised = new Map<string, number>();

  private month(month: Day): void {
    const acts: { on: Day; run: (on: Day) => void }[] = [];
    const some = (probability: number, run: (worker: Worker, on: Day) => void) => {
      const many = this.workers.length * probability;
      const n = Math.floor(many) + (this.chance.is(many % 1) ? 1 : 0);
      for (let i = 0; i < n; i++) acts.push({ on: this.dayOf(month), run: (on) => this.withAnyone(on, run) });
    };
    some(0.0075, (worker, on) => this.leaves(worker, on));
    some(0.009, (worker, on) => this.moves(worker, on));
    some(0.003, (worker, on) => this.changesHours(worker, on));
    some(0.0025, (worker, on) => this.goesAway(worker, on));
    some(0.0015, (worker, on) => this.movesForAWhile(worker, on));
    const spare = Math.max(0, this.free.length - Math.round(this.workers.length * 0.09));
    const hires = Math.ceil(spare * 0.6);
    for (let i = 0; i < hires; i++) acts.push({ on: this.dayOf(month), run: (on) => this.hires(on) });
    if (month === addMonths(startOfMonth(this.options.anchor), -7))
      acts.push({ on: addDays(month, 14), run: () => declareFacts(this) });
    if (month.slice(5, 7) === '03') acts.push({ on: addDays(month, 14), run: (on) => this.raisesPay(on) });
    for (const { on, run } of acts.sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0))) {
      if (on > this.options.anchor) return;
      this.history.goTo(on);
      run(on);
    }
  }

  private dayOf(month: Day): Day {
    return addDays(month, this.chance.int(0, 27));
  }

  private withAnyone(on: Day, run: (worker: Worker, on: Day) => void): void {
    const worker = this.chance.pick(this.workers);
    if (worker && !worker.leaving && worker.since < on) run(worker, on);
  }

  /** Hires somebody made up into a place. */
  hireInto(draft: Draft, slot: Slot, firstDay: Day, more: Partial<HireInput> = {}): Worker {
    const { country } = slot.port;
    const done = hire(draft, {
      person: this.madeUp(country.code, firstDay),
      firstDay,
      positionId: slot.position,
      contract: {
        kindId: this.lists['PERM'] as number,
        signedOn: addDays(firstDay, -20),
        probation: 'passed',
      },
      pay: this.payFor(slot.job, country),
      reasonId: this.lists['VACANCY'] as number,
      ...more,
    } as HireInput);
    if (!done) throw new Error(JSON.stringify(draft.problems));
    const { photos } = this.options;
    const picture = photos[done.personId % photos.length];
    // two in three have a photo; without any to give, the ids that follow are the same
    if (done.personId % 3 > 0) {
      if (picture) draft.begin('person_photo', done.personId, ALWAYS, { picture });
      else draft.newId();
    }
    const worker = { ...done, slot, country, since: firstDay, leaving: false };
    this.workers.push(worker);
    return worker;
  }

  payFor(job: ground.Job, { currency, perMonth }: Country): HireInput['pay'] {
    const middle = job.middle * perMonth * (this.raised.get(currency) ?? 1);
    const amount = String(Math.round((middle * (0.86 + this.chance.next() * 0.3)) / 10) * 10);
    return [{ kindId: this.lists['BASE'] as number, amount, currency, basis: 'month', rate: 'full_time' }];
  }

  madeUp(country: string, firstDay: Day): HireInput['person'] {
    const { given, family, gender, nationality } = this.names.next(country, this.chance);
    const local = fold(`${given}.${family}`).replace(/[^a-z.]/g, '');
    const seen = (this.emails.get(local) ?? 0) + 1;
    this.emails.set(local, seen);
    return {
      number: String(this.number++),
      name: { given, family },
      birthDate: addDays(firstDay, -this.chance.int(19 * 365, 58 * 365)),
      gender,
      nationality,
      language: LANGUAGES[nationality] ?? 'en',
      contacts: [
        { kind: 'email', value: `${local}${seen > 1 ? seen : ''}@vessmar.example`, use: 'work' },
        { kind: 'phone', value: `+000 ${this.chance.int(1000000, 9999999)}`, use: 'work' },
      ],
    };
  }

  private hires(on: Day): void {
    const slot = this.chance.take(this.free);
    if (!slot) return;
    const firstDay = [addDays(on, this.chance.int(8, 45)), slot.from].sort().at(-1) as Day;
    const isFixed = this.chance.is(0.18);
    const probationUntil = addMonths(firstDay, 6);
    const probation = probationUntil < this.options.anchor ? 'passed' : 'running';
    const lastDay = isFixed ? endOfMonth(addMonths(firstDay, this.chance.int(6, 24))) : null;
    const contract = {
      kindId: this.lists[isFixed ? 'FIX' : 'PERM'] as number,
      fixedUntil: lastDay,
      fixedGround: isFixed ? 'Project or season' : null,
      probationUntil,
      probation,
      signedOn: addDays(firstDay, -7),
      noticeByEmployeeDays: 30,
    } as HireInput['contract'];
    const isApprentice = slot.job.level <= 2 && this.chance.is(0.12);
    const workerTypeId = this.lists[isApprentice ? 'APP' : this.chance.is(0.03) ? 'AGY' : 'EMP'] as number;
    const unplanned = !slot.needsPosition && this.chance.is(0.5);
    const target = unplanned ? { positionId: undefined, unitId: slot.unit, jobId: slot.job.id } : {};
    this.act('hire', 'Filling a vacancy', (draft) => {
      const worker = this.hireInto(draft, slot, firstDay, { lastDay, contract, workerTypeId, ...target });
      if (unplanned) worker.slot = null;
      if (lastDay) this.endsTerm(draft, worker, lastDay);
    });
    if (unplanned) this.free.push(slot);
  }

  // A fixed term is recorded with its end; most are renewed later in life, here they simply end.
  private endsTerm(draft: Draft, worker: Worker, lastDay: Day): void {
    leave(draft, {
      employmentId: worker.employmentId,
      lastDay,
      reasonId: this.lists['TERM'] as number,
      mayReturn: true,
      returnReason: null,
    });
    this.gone(worker, lastDay);
  }

  private gone(worker: Worker, lastDay: Day): void {
    worker.leaving = true;
    this.workers.splice(this.workers.indexOf(worker), 1);
    if (worker.slot) this.free.push({ ...worker.slot, from: this.freeAfter(worker.slot, lastDay) });
  }

  // Where a handover is allowed, the next holder may overlap by some days.
  private freeAfter({ handoverDays }: Slot, lastDay: Day): Day {
    return addDays(lastDay, 1 - (handoverDays > 0 ? this.chance.int(0, 10) : 0));
  }

  private leaves(worker: Worker, on: Day): void {
    const lastDay = endOfMonth(addDays(on, this.chance.int(10, 50)));
    const reason = this.chance.pick([
      'RESIGNED',
      'RESIGNED',
      'RESIGNED',
      'RETIRED',
      'DISMISSED',
      'TERM',
      'RESIGNED',
      'RETIRED',
    ]);
    this.act('leave', reason.toLowerCase(), (draft) =>
      leave(draft, {
        employmentId: worker.employmentId,
        lastDay,
        reasonId: this.lists[reason] as number,
        mayReturn: reason !== 'DISMISSED',
        returnReason: null,
      }),
    );
    this.gone(worker, lastDay);
  }

  private moves(worker: Worker, on: Day): void {
    const level = worker.slot?.job.level ?? 1;
    const open = this.free.filter(
      ({ job, port }) => job.level >= level && (port.country === worker.country || this.chance.is(0.06)),
    );
    const slot = this.chance.pick(open);
    if (!slot || slot.position === worker.slot?.position) return;
    const firstDay = [startOfMonth(addMonths(on, this.chance.int(1, 2))), slot.from].sort().at(-1) as Day;
    const isSame = slot.port.country === worker.country;
    const pay = !isSame || slot.job.level > level ? { pay: this.payFor(slot.job, slot.port.country) } : {};
    const reasonId = this.lists[this.chance.is(0.85) ? 'OWNWISH' : 'REORG'] as number;
    const done = this.act('transfer', 'Filling a vacancy, own wish', (draft) =>
      transfer(draft, { personId: worker.personId, positionId: slot.position, firstDay, reasonId, ...pay }),
    );
    if (!done) return;
    this.free.splice(this.free.indexOf(slot), 1);
    if (worker.slot)
      this.free.push({ ...worker.slot, from: this.freeAfter(worker.slot, addDays(firstDay, -1)) });
    Object.assign(worker, {
      slot,
      since: firstDay,
      employmentId: done.employmentId,
      country: slot.port.country,
    });
  }

  /** The primary placement of a worker on a day. */
  placementOf(worker: Worker, on: Day) {
    return this.history.register
      .referrers('placement', 'employmentId', worker.employmentId)
      .find((row) => row.values.kind === 'primary' && isOn(row, on));
  }

  private changesHours(worker: Worker, on: Day): void {
    const from = startOfMonth(addMonths(on, 1));
    const placement = this.placementOf(worker, from);
    if (!placement || placement.values.awayHours > 0 || placement.values.lentHours > 0) return;
    const { hours, fullTime } = placement.values;
    const part = Math.round((fullTime * this.chance.pick([50, 60, 80, 80])) / 100);
    const next = hours < fullTime ? fullTime : part;
    // going back to full time is possible only while nobody else has taken the rest
    if (next > hours && placement.until !== OPEN) return;
    this.act('edit', 'Wish of the employee', (draft) =>
      draft.set('placement', placement.thing, { from, values: { hours: next } }),
    );
    worker.since = from;
  }

  private goesAway(worker: Worker, on: Day): void {
    const from = addDays(on, this.chance.int(5, 40));
    const until = addDays(from, this.chance.int(40, 300));
    const placement = this.placementOf(worker, from);
    if (!placement || placement.until < until || placement.values.awayHours + placement.values.lentHours > 0)
      return;
    this.act('edit', 'Away for long', (draft) => this.awayFor(draft, worker.employmentId, { from, until }));
    worker.since = until;
  }

  /** An absence of all hours over a period, mostly as a parent, else ill or unpaid. */
  awayFor(draft: Draft, employmentId: number, { from, until }: { from: Day; until: Day }): void {
    const kinds = ['PARENT', 'PARENT', 'ILLNESS', 'UNPAID'] as const;
    const kindId = this.lists[kinds[employmentId % kinds.length] as string] as number;
    draft.create('absence', from, { employmentId, kindId }, until);
  }

  private movesForAWhile(worker: Worker, on: Day): void {
    const slot = this.chance.pick(this.free.filter(({ port }) => port.country === worker.country));
    const from = addDays(on, this.chance.int(5, 30));
    const until = addDays(from, this.chance.int(40, 120));
    const placement = this.placementOf(worker, from);
    if (!slot || slot.from > from || !placement || placement.until < until) return;
    const { hours, fullTime, awayHours, lentHours } = placement.values;
    if (awayHours + lentHours > 0 || hours > fullTime) return;
    this.act('transfer', 'Temporary move', (draft) => {
      draft.set('placement', placement.thing, { from, until, values: { lentHours: hours } });
      draft.create(
        'placement',
        from,
        {
          ...placement.values,
          kind: 'temporary',
          positionId: slot.position,
          forPlacementId: placement.thing,
        },
        until,
      );
    });
    this.free.splice(this.free.indexOf(slot), 1);
    this.free.push({ ...slot, from: until });
    worker.since = until;
  }

  private raisesPay(on: Day): void {
    const from = addMonths(startOfMonth(on), 1);
    for (const country of this.countries) {
      const factor = 1.015 + this.chance.next() * 0.02;
      const here = this.workers.filter((worker) => worker.country === country && worker.since < from);
      if (here.length === 0) continue;
      this.act('bulk_change', `Yearly pay round ${country.code}`, (draft) => {
        if (this.countries.find(({ currency }) => currency === country.currency) === country) {
          raiseRanges(draft, country.currency, { from, factor });
          this.raised.set(country.currency, (this.raised.get(country.currency) ?? 1) * factor);
        }
        for (const { employmentId } of here)
          for (const row of this.history.register.referrers('pay', 'employmentId', employmentId)) {
            if (!isOn(row, from)) continue;
            const amount = String(Math.round(Number(row.values.amount) * factor));
            draft.set('pay', row.thing, {
              from,
              values: { amount, reasonId: this.lists['RAISE'] as number },
            });
          }
      });
    }
  }
}

const raiseRanges = (
  draft: Draft,
  currency: string,
  { from, factor }: { from: Day; factor: number },
): void => {
  for (const row of [...draft.register.allOn('grade_range', from)]) {
    if (row.values.currency !== currency) continue;
    const raised = (amount: string) => String(Math.round(Number(amount) * factor));
    const { minimum, middle, maximum } = row.values;
    const values = { minimum: raised(minimum), middle: raised(middle), maximum: raised(maximum) };
    draft.set('grade_range', row.thing, { from, values });
  }
};
