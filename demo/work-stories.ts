// Jobs described, pay steps, and positions that want something: over a limit by right, others by season, dotted lines.
import type { Day, NewValues, Row } from '@gremium/contract';
import {
  BEGINNING,
  type Draft,
  addDays,
  addMonths,
  day,
  decisionOf,
  isOn,
  payPlaceOn,
  startOfMonth,
  toNumber,
} from '@gremium/core';
import type { Simulation } from './simulate';

/** What came when jobs were described and steps introduced, some weeks before the anchor date. */
export const tellOfWork = (simulation: Simulation): void => {
  const { anchor } = simulation.options;
  simulation.act('edit', 'Jobs described', (draft) => describeJobs(simulation, draft, anchor));
  simulation.act('edit', 'Patterns to make jobs of', (draft) => makePatterns(simulation, draft, anchor));
  simulation.act('edit', 'Pay steps in the ports', (draft) => introduceSteps(simulation, draft, anchor));
  simulation.act('edit', 'Positions evaluated', (draft) => evaluate(simulation, draft, anchor));
  bySeason(simulation, anchor);
  aboveByRight(simulation, anchor);
  fewerHours(simulation, anchor);
};

const jobCalled = ({ history }: Simulation, code: string, on: Day): number | undefined =>
  [...history.register.allOn('job', on)].find(({ values }) => values.code === code)?.thing;

const positionsOf = ({ history }: Simulation, code: string, on: Day): Row<'position'>[] => {
  const jobs = [...history.register.allOn('job', on)].filter(({ values }) => values.code === code);
  return jobs
    .flatMap(({ thing }) => history.register.referrers('position', 'jobId', thing))
    .filter((row) => isOn(row, on) && row.values.standing === 'in_force');
};

type Described = {
  function: string;
  type: string;
  summary: string;
  tasks?: string[];
  responsibilities?: string[];
  checks?: string[];
  certificates?: string[][];
  skills?: [string[], number][];
  education?: string[];
  most?: number;
};

const SEA = { type: 'SEAGOING', checks: ['SEAFIT'] };
const DESCRIBED: Record<string, Described> = {
  MASTER: {
    ...SEA,
    function: 'STEER',
    summary: 'Commands a vessel and answers for everybody on board.',
    tasks: ['LOOKOUT', 'MOOR'],
    responsibilities: ['WATCH', 'MUSTER'],
    certificates: [['COC1'], ['RADIO'], ['BST']],
    skills: [
      [['PLAN'], 5],
      [['LEAD'], 4],
    ],
    most: 60,
  },
  CHOFF: {
    ...SEA,
    function: 'OPERATE',
    summary: 'Stands in for the master; loads, moors and keeps the deck.',
    tasks: ['LOOKOUT', 'MOOR', 'LOAD'],
    responsibilities: ['WATCH', 'MUSTER'],
    certificates: [['COC2'], ['RADIO'], ['BST']],
    skills: [[['PLAN'], 4]],
  },
  OFFICER: {
    ...SEA,
    function: 'OPERATE',
    summary: 'Keeps a navigational watch.',
    tasks: ['LOOKOUT', 'LOAD'],
    responsibilities: ['WATCH'],
    certificates: [['COC3'], ['BST']],
    skills: [[['SWEDISH', 'FINNISH'], 3]],
  },
  DECK: {
    ...SEA,
    function: 'OPERATE',
    summary: 'Works on deck and helps with mooring and loading.',
    tasks: ['LOOKOUT', 'MOOR', 'LOAD'],
    certificates: [['BST']],
  },
  CHENG: {
    ...SEA,
    function: 'OPERATE',
    summary: 'Answers for the engines of a vessel.',
    tasks: ['ENGINE'],
    responsibilities: ['WATCH', 'BUDGET'],
    skills: [[['DIESEL'], 5]],
    education: ['VOCATIONAL'],
  },
  CABIN: {
    ...SEA,
    function: 'SERVE',
    summary: 'Looks after cabins and guests.',
    tasks: ['GUESTS'],
    responsibilities: ['MUSTER'],
    certificates: [['BST']],
  },
  LINES: {
    type: 'ASHORE',
    function: 'OPERATE',
    summary: 'Takes and lets go the lines of vessels in port.',
    tasks: ['MOOR'],
    checks: ['RECORD'],
    certificates: [['FORK']],
  },
  DIR: {
    type: 'ASHORE',
    function: 'STEER',
    summary: 'Leads a division.',
    responsibilities: ['BUDGET'],
    education: ['MASTER'],
    skills: [[['LEAD'], 4]],
  },
};

const describeJobs = (simulation: Simulation, draft: Draft, anchor: Day): void => {
  const ids = (codes: readonly string[] | undefined) =>
    codes ? codes.map((code) => simulation.lists[code] as number) : null;
  const from = addMonths(startOfMonth(anchor), -2);
  for (const [code, said] of Object.entries(DESCRIBED)) {
    const jobId = jobCalled(simulation, code, anchor);
    if (jobId === undefined) continue;
    draft.set('job', jobId, {
      from,
      values: {
        functionId: simulation.lists[said.function] as number,
        typeId: simulation.lists[said.type] as number,
        summary: said.summary,
        taskIds: ids(said.tasks),
        responsibilityIds: ids(said.responsibilities),
        checkIds: ids(said.checks),
        mostPositions: said.most ?? null,
      },
    });
    const asks = (values: Partial<NewValues<'job_requirement'>>) =>
      draft.create('job_requirement', from, { jobId, needed: 'required', ...values });
    for (const any of said.certificates ?? []) asks({ certificateIds: ids(any) });
    for (const [any, level] of said.skills ?? []) asks({ skillIds: ids(any), level });
    if (said.education) asks({ educationIds: ids(said.education) });
  }
  const lines = jobCalled(simulation, 'LINES', anchor);
  if (lines !== undefined)
    draft.create('job_pay_basis', from, { jobId: lines, country: 'DE', basis: 'month' });
};

const makePatterns = ({ lists }: Simulation, draft: Draft, _anchor: Day): void => {
  for (const [code, name, task] of [
    ['PAT-SEA', 'Pattern: on board', 'LOOKOUT'],
    ['PAT-PORT', 'Pattern: in port', 'MOOR'],
  ] as const) {
    const jobId = draft.create('job', BEGINNING, {
      code,
      name,
      title: name,
      fte: 100,
      active: true,
      pattern: true,
      taskIds: [lists[task] as number],
      checkIds: [lists['RECORD'] as number],
    });
    draft.create('job_requirement', BEGINNING, {
      jobId,
      needed: 'required',
      certificateIds: [lists['BST'] as number],
    });
  }
};

const STEPS = 5;
// The steps lie evenly inside the range: the first at a fifth of it, the last at four fifths. Each pays 4 to 7 % more than the one before.
const placeOfStep = (step: number): number => 0.2 + ((step - 1) * 0.6) / (STEPS - 1);
const stepNear = (place: number): number =>
  Math.min(STEPS, Math.max(1, Math.round(((place - 0.2) * (STEPS - 1)) / 0.6) + 1));

// Two years on each step; who works in the ports came onto one of them within the last two years.
const introduceSteps = (simulation: Simulation, draft: Draft, anchor: Day): void => {
  const { register } = simulation.history;
  const jobs = ['PAXAG', 'TICKET', 'LINES', 'BERTH'];
  const positions = jobs.flatMap((code) => positionsOf(simulation, code, anchor));
  const grades = new Set(positions.flatMap(({ values }) => values.gradeId ?? []));
  for (const gradeId of grades) {
    for (let step = 1; step < STEPS; step++)
      draft.create('grade_step', BEGINNING, { gradeId, step, months: 24 });
    const ranges = register.referrers('grade_range', 'gradeId', gradeId).filter((row) => isOn(row, anchor));
    for (const { values } of ranges)
      for (let step = 1; step <= STEPS; step++) {
        const [least, most] = [Number(values.minimum), Number(values.maximum)];
        const amount = String(Math.round(least + (most - least) * placeOfStep(step)));
        const { currency, fullTime } = values;
        draft.create('grade_step_pay', addMonths(anchor, -24), { gradeId, step, currency, amount, fullTime });
      }
  }
  const isOfPort = new Set(positions.map(({ thing }) => thing));
  let place = 0;
  for (const { slot, employmentId, since, leaving } of simulation.workers) {
    if (!slot || leaving || !isOfPort.has(slot.position)) continue;
    const from = addDays(addMonths(anchor, -24), (place++ * 17) % 700);
    if (from <= since || from >= anchor) continue;
    const pay = register
      .referrers('pay', 'employmentId', employmentId)
      .find((row) => row.values.kindId === simulation.lists['BASE'] && isOn(row, from));
    // on the step that pays about what they have
    const at = pay && payPlaceOn(register, pay, from)?.placeInRange;
    if (pay && at) draft.set('pay', pay.thing, { from, values: { step: stepNear(toNumber(at)) } });
  }
};

const evaluate = (simulation: Simulation, draft: Draft, anchor: Day): void => {
  const from = addMonths(startOfMonth(anchor), -1);
  const by = [...simulation.history.register.allOn('unit', anchor)].find(
    ({ values }) => values.parentId === null,
  );
  const methodId = simulation.lists['POINTS'] as number;
  const [first] = positionsOf(simulation, 'CHENG', anchor);
  for (const [i, { thing }] of positionsOf(simulation, 'MASTER', anchor).slice(0, 8).entries()) {
    const points = String(640 + i * 5);
    const byUnitId = by?.thing ?? null;
    draft.create('position_evaluation', from, {
      positionId: thing,
      methodId,
      evaluatedOn: from,
      byUnitId,
      points,
    });
  }
  // engineers in chief report to the director of their division as well
  const [director] = positionsOf(simulation, 'DIR', anchor);
  if (first && director && first.thing !== director.thing)
    draft.create('dotted_line', from, {
      positionId: first.thing,
      toId: director.thing,
      about: 'Fuel and emissions',
    });
  if (first)
    draft.create('position_requirement', from, {
      positionId: first.thing,
      needed: 'wished',
      skillIds: [simulation.lists['SWEDISH'] as number, simulation.lists['FINNISH'] as number],
      level: 3,
    });
};

const bySeason = (simulation: Simulation, anchor: Day): void => {
  const [crew] = [...simulation.history.register.allOn('position', anchor)].filter(
    ({ values }) => values.temporary && values.standing === 'in_force',
  );
  if (!crew) return;
  const year = Number(anchor.slice(0, 4)) + 1;
  simulation.act('limits_by_season', 'More hands in summer', (draft) => {
    decisionOf('limits_by_season')(
      draft,
      {
        positionId: crew.thing,
        firstDay: day(`${year}-04-01`),
        lastDay: day(`${year}-09-30`),
        years: 3,
        places: 12,
        fte: 1200,
        otherPlaces: 6,
        otherFte: 600,
      },
      { today: anchor },
    );
  });
};

// A court puts somebody back into a place that was filled meanwhile.
const aboveByRight = (simulation: Simulation, anchor: Day): void => {
  const from = addDays(anchor, -12);
  const single = simulation.workers.filter(({ slot, since, leaving }) => {
    if (!slot || leaving || since >= from) return false;
    return simulation.history.register.at('position_limits', slot.position, anchor)?.places === 1;
  });
  // who helps passengers in Tallinn, on the days on which somebody does alone
  const taken =
    single.find(({ slot, country }) => country.code === 'EE' && slot?.job.code === 'PAXAG') ?? single[0];
  if (!taken?.slot) return;
  const { slot } = taken;
  simulation.act('hire', 'Reinstated', (draft) =>
    simulation.hireInto(draft, slot, from, {
      above: { aboveReason: 'reinstated by the labour court', reviewOn: addDays(anchor, 40) },
    }),
  );
};

// A position is cut to fewer hours; whoever holds it keeps theirs.
const fewerHours = (simulation: Simulation, anchor: Day): void => {
  const held = simulation.workers.find(
    ({ slot, since, leaving }) => slot?.job.code === 'SHOP' && !leaving && since < addDays(anchor, -40),
  );
  if (!held?.slot) return;
  const { position } = held.slot;
  simulation.act('change_position', 'Fewer hours for the next holder', (draft) => {
    decisionOf('change_position')(
      draft,
      { positionId: position, firstDay: startOfMonth(anchor), hours: 3000 },
      { today: anchor },
    );
  });
};
