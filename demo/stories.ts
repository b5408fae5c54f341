// What a demonstration needs to meet and chance does not bring: each a small act of its own, near the anchor date.
import type { Day, HireInput } from '@gremium/contract';
import { BEGINNING, OPEN, addDays, addMonths, day, isOn, startOfMonth } from '@gremium/core';
import type { Simulation, Worker } from './simulate';
import type { Slot } from './structure';
import { tellOfRecords } from './record-stories';
import { tellOfWork } from './work-stories';

export const tellStories = (simulation: Simulation): void => {
  const { anchor } = simulation.options;
  planPositions(simulation, anchor);
  holdPositions(simulation, anchor);
  planReorganisation(simulation, anchor);
  standIn(simulation, anchor);
  workTwice(simulation, anchor);
  hireOthers(simulation, anchor);
  hireSeason(simulation, anchor);
  leaveFaults(simulation, anchor);
  tellOfWork(simulation);
  tellOfRecords(simulation);
  makeRoles(simulation);
};

// A role of the organisation's own: who pays people need not see what else is known of them.
const makeRoles = (simulation: Simulation): void => {
  const view = [
    'person',
    'person_name',
    'employment',
    'contract',
    'placement',
    'absence',
    'position',
    'unit',
    'job',
    'grade',
  ];
  const also = ['benefit', 'cost_split', 'legal_entity', 'location', 'organisation', 'list_entry', 'holiday'];
  const edit = ['pay', 'one_off_payment', 'payroll_number'];
  simulation.act('create', 'Whoever pays wages', (draft) =>
    draft.create('role', BEGINNING, {
      code: 'wages_clerk',
      label: { en: 'Wages clerk', de: 'Lohnbuchhaltung' },
      note: null,
      acts: null,
      rights: Object.fromEntries([
        ...[...view, ...also].map((name) => [name, 'view'] as const),
        ...edit.map((name) => [name, 'edit'] as const),
      ]),
      others: 'none',
      follows: null,
      hides: ['person.nationality', 'person.gender'],
      retired: null,
    }),
  );
};

const nextSpring = (anchor: Day): Day => {
  const march = day(`${anchor.slice(0, 4)}-03-01`);
  return march > addDays(anchor, 30) ? march : addMonths(march, 12);
};

const planPositions = (simulation: Simulation, anchor: Day): void => {
  const from = startOfMonth(anchor);
  simulation.act('create', 'Planned for next year', (draft) => {
    for (let i = 0; i < 20; i++) {
      const like = simulation.chance.pick(simulation.free);
      const values = draft.register.at('position', like.position, anchor);
      const limits = draft.register.at('position_limits', like.position, anchor);
      if (!values || !limits) continue;
      const planned = { ...values, code: `P-N${i + 1}`, standing: 'planned' as const };
      const id = draft.create('position', from, planned);
      draft.begin('position_limits', id, { from, until: OPEN }, { places: 1, fte: 100, handoverDays: 0 });
      // some come into force by themselves later
      if (i % 4 === 0)
        draft.set('position', id, { from: addMonths(from, 5), values: { standing: 'in_force' } });
    }
  });
};

const holdPositions = (simulation: Simulation, anchor: Day): void => {
  for (let i = 0; i < 15; i++) {
    const slot = simulation.chance.take(simulation.free);
    if (!slot || slot.from > anchor) continue;
    const coming = simulation.history.register.referrers('placement', 'positionId', slot.position, {
      from: anchor,
      until: OPEN,
    });
    if (coming.some((row) => row.from > anchor)) continue;
    simulation.act('edit', 'Hiring freeze', (draft) =>
      draft.set('position', slot.position, { from: anchor, values: { standing: 'on_hold' } }),
    );
  }
};

const unitNamed = ({ history }: Simulation, name: string, on: Day): number =>
  [...history.register.allOn('unit', on)].find(({ values }) => values.name === name)?.thing as number;

const planReorganisation = (simulation: Simulation, anchor: Day): void => {
  const from = nextSpring(anchor);
  const fleet = unitNamed(simulation, 'Fleet', anchor);
  simulation.act('edit', 'Guest services on board join the fleet next spring', (draft) => {
    for (const name of ['Entertainment', 'Cabin Standards'])
      draft.set('unit', unitNamed(simulation, name, anchor), { from, values: { parentId: fleet } });
  });
};

const heads = ({ history, workers }: Simulation, on: Day): Worker[] => {
  const positions = new Set(
    [...history.register.allOn('unit', on)].map(({ values }) => values.headPositionId),
  );
  return workers.filter(
    ({ slot, since, leaving }) => slot && !leaving && since < on && positions.has(slot.position),
  );
};

// A head is away for months; a colleague acts for them and another covers a part of the hours.
const standIn = (simulation: Simulation, anchor: Day): void => {
  const from = addDays(anchor, -20);
  const until = addDays(anchor, 120);
  for (const head of heads(simulation, from).slice(3, 8)) {
    const own = simulation.placementOf(head, from);
    const helpers = simulation.workers.filter(
      (worker) =>
        worker !== head && worker.slot?.unit === head.slot?.unit && worker.since < from && !worker.leaving,
    );
    const [helper] = helpers;
    const theirs = helper && simulation.placementOf(helper, from);
    if (!own || !theirs || own.until < until || theirs.until < until) continue;
    if (own.values.awayHours + own.values.lentHours > 0 || theirs.values.awayHours > 0) continue;
    simulation.act('edit', 'Away for a long time; a colleague acts', (draft) => {
      simulation.awayFor(draft, head.employmentId, { from, until });
      const acting = {
        ...theirs.values,
        kind: 'acting' as const,
        positionId: own.values.positionId,
        hours: 0,
        lentHours: 0,
        forPlacementId: own.thing,
      };
      draft.create('placement', from, acting, until);
      const hours = Math.round(own.values.hours * 0.2);
      draft.create('placement', from, { ...acting, kind: 'cover', hours }, until);
    });
  }
};

// Somebody also teaches a few hours for another legal entity.
const workTwice = (simulation: Simulation, anchor: Day): void => {
  const from = addDays(startOfMonth(anchor), -60);
  const worker = simulation.workers.find(
    ({ country, since, leaving }) => country.code === 'FI' && since < from && !leaving,
  );
  const slot = simulation.free.find((free) => free.port.country.code === 'EE' && free.from < from);
  if (!worker || !slot) return;
  simulation.act('hire', 'Teaches two days a month in Tallinn', (draft) => {
    const employmentId = draft.create('employment', from, {
      personId: worker.personId,
      legalEntityId: slot.port.country.entity,
      workerTypeId: simulation.lists['EMP'] as number,
      markedMain: false,
      seniorityDate: null,
      continuesId: null,
      endReasonId: null,
      mayReturn: null,
      returnReason: null,
      returnBarredUntil: null,
    });
    const fullTime = slot.port.country.fullTime;
    draft.create('placement', from, {
      employmentId,
      positionId: slot.position,
      kind: 'primary',
      hours: Math.round(fullTime / 10),
      fullTime,
      fullTimeSource: 'location',
      lentHours: 0,
      awayHours: 0,
      backfilled: false,
      lead: false,
      forPlacementId: null,
      reasonId: null,
    });
  });
};

const hireOthers = (simulation: Simulation, anchor: Day): void => {
  const { lists, countries } = simulation;
  const finland = countries[0] as Simulation['countries'][number];
  simulation.act('hire', 'Board and contractors', (draft) => {
    for (let i = 0; i < 4; i++) {
      const from = addMonths(startOfMonth(anchor), -6);
      const { personId } = simulation.hireInto(
        draft,
        takeFree(simulation, addDays(anchor, 1)),
        addDays(anchor, 1),
        {
          workerTypeId: lists['CON'] as number,
          pay: [],
        } as Partial<HireInput>,
      );
      if (i > 0) continue;
      draft.create(
        'employment',
        from,
        {
          personId,
          legalEntityId: finland.entity,
          workerTypeId: lists['BRD'] as number,
          markedMain: false,
          seniorityDate: null,
          continuesId: null,
          endReasonId: null,
          mayReturn: null,
          returnReason: null,
          returnBarredUntil: null,
        },
        addDays(anchor, 1),
      );
    }
  });
};

const takeFree = ({ free }: Simulation, on: Day): Slot => {
  const at = free.findIndex((slot) => slot.from <= on);
  return free.splice(at, 1)[0] as Slot;
};

const hireSeason = (simulation: Simulation, anchor: Day): void => {
  const summer = addMonths(nextSpring(anchor), 3);
  const seasonal = [...simulation.history.register.allOn('position', anchor)].filter(
    ({ values }) => values.temporary,
  );
  simulation.act('hire', 'Summer season', (draft) => {
    for (const { thing } of seasonal.slice(0, 12)) {
      const slot = simulation.free.find(({ position }) => position === thing) ?? anySlotOf(simulation, thing);
      if (!slot) continue;
      const kindId = simulation.lists['SEAS'] as number;
      const lastDay = addMonths(summer, 3);
      const reasonId = simulation.lists['SEASON'] as number;
      simulation.hireInto(draft, slot, summer, {
        lastDay,
        reasonId,
        contract: { kindId, fixedUntil: lastDay },
      } as Partial<HireInput>);
    }
  });
};

const anySlotOf = ({ workers }: Simulation, position: number): Slot | null =>
  workers.find(({ slot }) => slot?.position === position)?.slot ?? null;

// Deliberate faults for the list of data health.
const leaveFaults = (simulation: Simulation, anchor: Day): void => {
  const { history, workers } = simulation;
  const [old, rich] = [workers[10] as Worker, workers[20] as Worker];
  simulation.act('edit', 'Typed from a paper file', (draft) => {
    draft.set('person', old.personId, { from: BEGINNING, values: { birthDate: day('1900-04-12') } });
    const pay = history.register
      .referrers('pay', 'employmentId', rich.employmentId)
      .find((row) => isOn(row, anchor));
    if (pay)
      draft.set('pay', pay.thing, {
        from: anchor,
        values: { amount: String(Number(pay.values.amount) * 3) },
      });
  });
  const twin = workers[30] as Worker;
  const values = history.register.at('person', twin.personId, anchor);
  const name = history.register.at('person_name', twin.personId, anchor);
  const slot = simulation.chance.take(simulation.free);
  if (!values || !name || !slot) return;
  const person = {
    number: 'H-77',
    name: { given: name.given, family: `${name.family}ov` },
    birthDate: values.birthDate,
    contacts: [{ kind: 'email' as const, value: 'twin@vessmar.example' }],
  };
  simulation.act('hire', 'Filling a vacancy', (draft) =>
    simulation.hireInto(
      draft,
      slot,
      [addDays(anchor, 12), slot.from].sort().at(-1) as Day,
      { person } as Partial<HireInput>,
    ),
  );
};
