// Random histories of a small organisation, for property tests: any act at any date, refused ones left out.
import type { Day, HireInput, MovementInput, MovementKind } from '@gremium/contract';
import {
  BEGINNING,
  type Draft,
  OPEN,
  type MovedThings,
  addDays,
  day,
  decisionOf,
  spellsOf,
  standsAside,
} from '@gremium/core';
import { History } from './history';
import { Chance } from './random';
import { papers } from './papers';
import { makeGrade, moveJobs } from './random-jobs';
import { type Lists, makeLists } from './structure';

export const FIRST = day('2020-01-01');
const SPAN = 900;

export type World = {
  history: History;
  chance: Chance;
  lists: Lists;
  units: number[];
  positions: number[];
  entities: number[];
  locations: number[];
  jobs: number[];
  grades: number[];
  persons: number[];
};

/** A world of seven units, two legal entities and a dozen positions, and then `acts` random acts. */
export const randomHistory = (seed: number, acts: number): World => {
  const world = makeWorld(seed);
  for (let i = 0; i < acts; i++) {
    world.history.goTo(addDays(FIRST, Math.floor((i * SPAN) / acts)));
    anyAct(world);
  }
  return world;
};

const makeWorld = (seed: number): World => {
  const history = new History(FIRST, { checkLaws: true });
  const world: World = {
    history,
    chance: new Chance(seed),
    lists: {},
    units: [],
    positions: [],
    entities: [],
    locations: [],
    jobs: [],
    grades: [],
    persons: [],
  };
  history.act({ kind: 'set_up', account: 'chance' }, (draft) => {
    world.lists = makeLists(draft);
    draft.create('organisation', BEGINNING, {
      name: 'World',
      country: 'FI',
      timeZone: 'UTC',
      languages: ['en'],
      dateFormat: 'YYYY-MM-DD',
      currency: 'EUR',
      fiscalMonth: 1,
      weekStart: 1,
      fullTime: 4000,
      figuresFrom: FIRST,
    });
    for (const code of ['A', 'B'])
      world.entities.push(
        draft.create('legal_entity', BEGINNING, { code, name: code, country: 'FI', currency: 'EUR' }),
      );
    for (const code of ['X', 'Y'])
      world.locations.push(
        draft.create('location', BEGINNING, {
          code,
          name: code,
          city: code,
          country: 'FI',
          timeZone: 'UTC',
          fullTime: 3750,
        }),
      );
    world.grades.push(makeGrade(draft));
    world.jobs.push(
      draft.create('job', BEGINNING, {
        code: 'J',
        name: 'Work',
        title: 'Work',
        summary: null,
        familyId: null,
        level: 1,
        gradeId: null,
        workerTypeId: world.lists['EMP'] as number,
        fte: 100,
        hours: null,
        mostPositions: null,
        active: true,
        taskIds: [world.lists['LOOKOUT'] as number],
      }),
    );
    for (let i = 0; i < 7; i++) makeUnit(world, draft, i);
    for (let i = 0; i < 12; i++) makePosition(world, draft, i);
  });
  return world;
};

// One or several are honoured, also on days before others of theirs.
const honourSome = (world: World): void => {
  const { history, chance, persons, lists } = world;
  if (persons.length === 0) return;
  const awardedOn = addDays(history.day, chance.int(-400, 0));
  const kind = chance.pick(['RESCUE', 'THANKS']);
  tryMovement(world, 'give_honour', {
    personIds: [...new Set([chance.pick(persons), chance.pick(persons)])],
    honourId: lists[kind] as number,
    awardedOn,
    orderNumber: `${chance.int(1, 99)}/26`,
    orderedOn: awardedOn,
    evidence: papers.order.file,
  });
};

const makeUnit = ({ lists, units, entities, locations }: World, draft: Draft, i: number): void => {
  const isTop = i === 0;
  units.push(
    draft.create('unit', FIRST, {
      code: `U${i}`,
      name: `Unit ${i}`,
      kindId: lists[i < 3 ? 'DIVISION' : 'TEAM'] as number,
      parentId: isTop ? null : (units[Math.floor((i - 1) / 2)] as number),
      headPositionId: null,
      locationId: isTop ? (locations[0] as number) : i === 2 ? (locations[1] as number) : null,
      costCentreId: null,
      legalEntityId: isTop ? (entities[0] as number) : i === 2 ? (entities[1] as number) : null,
      hiresNeedPosition: isTop ? true : i === 4 ? false : null,
    }),
  );
};

const makePosition = ({ positions, units, jobs, grades, chance }: World, draft: Draft, i: number): void => {
  const id = draft.create('position', FIRST, {
    code: `P${i}`,
    title: `Position ${i}`,
    jobId: jobs[0] as number,
    unitId: chance.pick(units),
    reportsToId: null,
    standing: i === 11 ? 'planned' : 'in_force',
    locationId: null,
    costCentreId: null,
    legalEntityId: null,
    gradeId: i % 2 === 0 ? (grades[0] as number) : null,
    step: i % 2 === 0 ? 1 : null,
    hours: null,
    temporary: false,
    madeOnHire: false,
    confirmedTop: false,
    sources: i % 3 === 0 ? { title: 'job', hours: 'job', gradeId: 'job' } : {},
  });
  const places = i % 4 === 3 ? 2 : 1;
  draft.begin(
    'position_limits',
    id,
    { from: FIRST, until: OPEN },
    { places, fte: places * 100, handoverDays: i % 3 === 0 ? 14 : 0 },
  );
  positions.push(id);
};

const anyDay = ({ history, chance }: World): Day => addDays(history.day, chance.int(-120, 200));

const anyAct = (world: World): void => {
  const { chance, history } = world;
  const roll = chance.next();
  if (roll < 0.3) hireSomebody(world);
  else if (roll < 0.35) rehireSomebody(world);
  else if (roll < 0.5) transferSomebody(world);
  else if (roll < 0.62) somebodyLeaves(world);
  else if (roll < 0.64) changeHours(world);
  else if (roll < 0.67) changeSomebodysTerms(world);
  else if (roll < 0.72) somebodyIsAway(world);
  else if (roll < 0.74) changeStructure(world);
  else if (roll < 0.8) changePosition(world);
  else if (roll < 0.89) moveStructure(world);
  else if (roll < 0.92) moveJobs(world, tryMovement);
  else if (roll < 0.94) honourSome(world);
  else history.undo(chance.pick(history.entries.slice(1))?.id ?? -1);
};

/** A movement of any kind, if it is allowed; answers with what it made. */
const tryMovement = <K extends MovementKind>(
  { history }: World,
  kind: K,
  input: MovementInput<K>,
): MovedThings | null => {
  const made: { things?: MovedThings | null } = {};
  const isDone = history.attempt(kind, (draft) => {
    made.things = decisionOf(kind)(draft, input, { today: history.day, number: String(history.lastId) });
  });
  return isDone ? (made.things ?? null) : null;
};

const anyPlace = ({ chance, positions, units, jobs }: World) =>
  chance.is(0.85)
    ? { positionId: chance.pick(positions) }
    : { unitId: chance.pick(units), jobId: jobs[0] as number };

const anyTerms = (world: World) => {
  const { chance } = world;
  const firstDay = anyDay(world);
  return {
    firstDay,
    lastDay: chance.is(0.3) ? addDays(firstDay, chance.int(0, 300)) : null,
    ...anyPlace(world),
    pay: [
      {
        amount: '3000',
        ...chance.pick([{}, {}, { timesAYear: 13 }, { basis: 'time' as const, timesAYear: 4 }]),
      },
    ],
    ...(chance.is(0.5) ? { contract: {} } : {}),
    reasonId: null,
  };
};

const hireSomebody = (world: World): void => {
  const { history, persons } = world;
  const person: HireInput['person'] = {
    name: { given: 'N', family: String(history.lastId) },
    contacts: [{ kind: 'email' as const, value: 'n@n.example' }],
  };
  const made = tryMovement(world, 'hire', { person, ...anyTerms(world) });
  if (made?.things.personId) persons.push(made.things.personId);
};

const rehireSomebody = (world: World): void => {
  const { chance, persons } = world;
  if (persons.length > 0)
    tryMovement(world, 'rehire', { personId: chance.pick(persons), ...anyTerms(world) });
};

// Away for a time; or, of somebody who is, another return, the real first day, or back again.
const somebodyForATime = (world: World, personId: number): void => {
  const { chance, history } = world;
  const away = [...history.register.all('placement')].filter(({ values }) => values.kind === 'temporary');
  const firstDay = anyDay(world);
  if (away.length === 0 || chance.is(0.4)) {
    tryMovement(world, 'transfer_for_a_time', {
      personId,
      positionId: chance.pick(world.positions),
      firstDay,
      lastDay: addDays(firstDay, chance.int(1, 200)),
      ...(chance.is(0.5) ? { hours: chance.pick([375, 1500, 2625]) } : {}),
      oldPlace: chance.pick(['kept', 'backfilled'] as const),
      reasonId: null,
    });
    return;
  }
  const { thing: placementId, from } = chance.pick(away);
  const near = addDays(from as Day, chance.int(-3, 30));
  if (chance.is(0.34))
    tryMovement(world, 'change_return', { placementId, lastDay: addDays(near, chance.int(0, 200)) });
  else tryMovement(world, chance.pick(['started', 'back'] as const), { placementId, firstDay: near });
};

const transferSomebody = (world: World): void => {
  const { chance, persons } = world;
  if (persons.length === 0) return;
  if (chance.is(0.5)) return somebodyForATime(world, chance.pick(persons));
  const input = { personId: chance.pick(persons), firstDay: anyDay(world), ...anyPlace(world) };
  tryMovement(world, 'transfer', { ...input, reasonId: null });
};

// Somebody employed on a day, with their employment.
const employedOn = ({ history, chance }: World, on: Day) => {
  const running = [...history.register.allOn('employment', on)];
  if (running.length === 0) return null;
  const { thing: employmentId, values } = chance.pick(running);
  return { employmentId, personId: values.personId };
};

// An employment with a last day that nobody recorded a leaving of.
const endingIn = ({ history, chance }: World): number | undefined => {
  const ending = [...history.register.all('employment')].filter(
    ({ until, values }) => until !== OPEN && values.endReasonId === null,
  );
  return ending.length === 0 ? undefined : chance.pick(ending).thing;
};

// Hours, contract, pay of somebody from a day; something paid once; a last day that moves on.
const changeSomebodysTerms = (world: World): void => {
  const { chance, lists } = world;
  const firstDay = anyDay(world);
  const somebody = employedOn(world, firstDay);
  if (!somebody) return;
  const of = { employmentId: somebody.employmentId, reasonId: null };
  const amount = String(chance.int(20, 60) * 100);
  const roll = chance.next();
  if (roll < 0.3)
    tryMovement(world, 'change_terms', {
      ...of,
      firstDay,
      hours: chance.pick([1875, 3000, 3750]),
      lastDay: chance.is(0.4) ? addDays(firstDay, chance.int(1, 200)) : null,
    });
  else if (roll < 0.4)
    tryMovement(world, 'change_terms', {
      ...of,
      firstDay,
      contract: { kindId: lists['PERM'] as number, probation: chance.pick(['running', 'passed'] as const) },
    });
  else if (roll < 0.7)
    tryMovement(world, 'change_pay', {
      ...of,
      firstDay,
      pay: [{ amount }],
      laterOnes: chance.pick(['keep', 'replace'] as const),
    });
  else if (roll < 0.85)
    tryMovement(world, 'pay_once', { ...of, paidOn: firstDay, kindId: lists['BASE'] as number, amount });
  else
    tryMovement(world, 'extend', {
      employmentId: endingIn(world) ?? somebody.employmentId,
      lastDay: chance.is(0.8) ? addDays(firstDay, chance.int(10, 400)) : null,
    });
};

// Somebody is away for long, is back, on other days; others stand in for them, or hold a second place.
const somebodyIsAway = (world: World): void => {
  const { history, chance, lists, positions } = world;
  const firstDay = anyDay(world);
  const somebody = employedOn(world, firstDay);
  if (!somebody) return;
  const lastDay = chance.is(0.8) ? addDays(firstDay, chance.int(0, 300)) : null;
  const kindId = lists[chance.pick(['PARENT', 'ILLNESS', 'UNPAID'])] as number;
  const absences = [...history.register.all('absence')];
  const roll = chance.next();
  if (roll < 0.3 || (absences.length === 0 && roll < 0.6)) {
    tryMovement(world, 'long_absence', {
      ...{ employmentId: somebody.employmentId, firstDay, lastDay, kindId },
      ...(chance.is(0.3) ? { hours: chance.pick([750, 1500]) } : {}),
      oldPlace: chance.pick(['kept', 'backfilled'] as const),
    });
    return;
  }
  if (absences.length === 0 || roll >= 0.7) return standInSomewhere(world, chance.pick(positions));
  const { thing: absenceId, from, values } = chance.pick(absences);
  const near = addDays(from as Day, chance.int(-20, 60));
  const next = addDays(near, chance.int(10, 60));
  if (roll < 0.5)
    tryMovement(world, 'return_from_absence', {
      employmentId: values.employmentId,
      firstDay: near,
      ...(chance.is(0.5) ? { hours: chance.pick([750, 1500]) } : {}),
      ...(chance.is(0.3) ? { steps: [{ from: next, hours: chance.pick([2250, 4000]) }] } : {}),
    });
  else if (roll < 0.6)
    tryMovement(world, 'change_absence', {
      absenceId,
      firstDay: near,
      lastDay: addDays(near, chance.int(1, 90)),
    });
  else
    tryMovement(world, 'cover', {
      awayEmploymentId: values.employmentId,
      ...{ personId: employedOn(world, near)?.personId ?? somebody.personId, firstDay: near, reasonId: null },
      ...(chance.is(0.7) ? { hours: chance.pick([375, 750]) } : {}),
    });
};

const standInSomewhere = (world: World, positionId: number): void => {
  const { history, chance } = world;
  const firstDay = anyDay(world);
  const personId = employedOn(world, firstDay)?.personId;
  if (personId === undefined) return;
  const lastDay = chance.is(0.3) ? null : addDays(firstDay, chance.int(10, 60));
  const standing = [...history.register.all('placement')].filter(({ values }) => standsAside(values));
  const reasonId = null;
  if (standing.length > 0 && chance.is(0.65)) {
    const { thing: standInId, from } = chance.pick(standing);
    tryMovement(world, 'end_stand_in', { standInId, lastDay: addDays(from as Day, chance.int(0, 40)) });
  } else if (chance.is(0.5))
    tryMovement(world, 'acting', { positionId, personId, firstDay, lastDay, reasonId });
  else
    tryMovement(world, 'second_placement', {
      ...{ positionId, personId, firstDay, lastDay, reasonId },
      hours: chance.pick([375, 750]),
    });
};

const somebodyLeaves = (world: World): void => {
  const { history, chance, persons, lists, positions } = world;
  const spell = persons.length > 0 && spellsOf(history.register, chance.pick(persons))[0];
  if (!spell) return;
  const lastDay = anyDay(world);
  tryMovement(world, 'leave', {
    employmentId: spell.id,
    lastDay,
    reasonId: lists[chance.pick(['RESIGNED', 'RETIRED', 'DISMISSED'])] as number,
    mayReturn: chance.is(0.8),
    returnReason: null,
    noticeOn: addDays(lastDay, -chance.int(0, 90)),
    ...(chance.is(0.5) ? { positionAfter: chance.pick(['in_force', 'on_hold', 'closed'] as const) } : {}),
    ...(chance.is(0.4) ? { reportsToId: chance.pick(positions) } : {}),
  });
};

const moveStructure = (world: World): void => {
  const { chance, units, positions, jobs, lists } = world;
  const firstDay = anyDay(world);
  const roll = chance.next();
  if (roll < 0.3) {
    const standing = chance.pick(['planned', 'in_force'] as const);
    const made = tryMovement(world, 'new_position', {
      firstDay,
      unitId: chance.pick(units),
      jobId: jobs[0] as number,
      standing,
    });
    if (made?.things.positionId) positions.push(made.things.positionId);
  } else if (roll < 0.6)
    tryMovement(world, 'change_position', {
      positionId: chance.pick(positions),
      firstDay,
      ...chance.pick([
        { standing: chance.pick(['in_force', 'on_hold', 'closed'] as const) },
        { unitId: chance.pick(units) },
        { places: chance.int(1, 3), fte: 300 },
        { reportsToId: chance.pick(positions) },
      ]),
    });
  else if (roll < 0.75) {
    const made = tryMovement(world, 'new_unit', {
      firstDay,
      name: 'Made',
      kindId: lists['TEAM'] as number,
      parentId: chance.pick(units),
      hiresNeedPosition: chance.is(0.5),
    });
    if (made?.things.unitId) units.push(made.things.unitId);
  } else if (roll < 0.87)
    tryMovement(world, 'change_unit', {
      unitId: chance.pick(units),
      firstDay,
      ...chance.pick([
        { parentId: chance.pick(units) },
        { headPositionId: chance.pick(positions) },
        { name: 'Renamed' },
      ]),
    });
  else if (roll < 0.93) tryMovement(world, 'close_unit', { unitId: chance.pick(units), lastDay: firstDay });
  else if (roll < 0.965) {
    tryMovement(world, 'merge_unit', { unitId: chance.pick(units), intoId: chance.pick(units), firstDay });
  } else splitSomeUnit(world, firstDay);
};

const splitSomeUnit = (world: World, firstDay: Day): void => {
  const { chance, history, units } = world;
  const unitId = chance.pick(units);
  const held = history.register.referrers('position', 'unitId', unitId, { from: firstDay, until: OPEN });
  const made = tryMovement(world, 'split_unit', {
    unitId,
    firstDay,
    name: 'Split off',
    positionIds: [...new Set(held.map((row) => row.thing))].slice(0, 2),
    unitIds: [],
  });
  if (made?.things.unitId) units.push(made.things.unitId);
};

const changeFullTime = (world: World): void => {
  const { chance, locations } = world;
  tryMovement(world, 'change_full_time', {
    ...(chance.is(0.5) ? { locationId: chance.pick(locations) } : {}),
    firstDay: anyDay(world),
    fullTime: chance.pick([3700, 3750, 4000]),
    keep: chance.pick(['share', 'hours'] as const),
    others: [],
  });
};

const changeHours = (world: World): void => {
  const { history, chance } = world;
  if (chance.is(0.35)) return changeFullTime(world);
  const placements = [...history.register.things('placement')];
  if (placements.length === 0) return;
  const id = chance.pick(placements);
  const values = { hours: chance.pick([1875, 3000, 3750]) };
  history.attempt('edit', (draft) =>
    draft.set('placement', id, { from: anyDay(world), values, override: chance.is(0.2) }),
  );
};

const changeStructure = (world: World): void => {
  const { history, chance, units, positions, locations } = world;
  const unit = chance.pick(units);
  const values = chance.pick([
    { parentId: chance.pick(units) },
    { headPositionId: chance.pick(positions) },
    { locationId: chance.pick(locations) },
    { name: `Unit ${chance.int(0, 99)}` },
  ]);
  history.attempt('edit', (draft) => draft.set('unit', unit, { from: anyDay(world), values }));
};

const changePosition = (world: World): void => {
  const { history, chance, positions, units } = world;
  const position = chance.pick(positions);
  if (chance.is(0.25))
    history.attempt('edit', (draft) =>
      draft.set('position_limits', position, {
        from: anyDay(world),
        values: { places: chance.int(1, 3), fte: chance.int(1, 3) * 100 },
      }),
    );
  else {
    const values = chance.pick([
      { unitId: chance.pick(units) },
      { reportsToId: chance.pick(positions) },
      { standing: chance.pick(['in_force', 'on_hold', 'closed'] as const) },
    ]);
    history.attempt('edit', (draft) => draft.set('position', position, { from: anyDay(world), values }));
  }
};
