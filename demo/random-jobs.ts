// Random acts on jobs, grades and what follows them, for property tests.
import { type MovementInput, type MovementKind, jobParts } from '@gremium/contract';
import { BEGINNING, type Draft, type MovedThings, addDays, nextStep } from '@gremium/core';
import type { World } from './random-history';

/** A grade of five steps, a year on each, that pays more on each. */
export const makeGrade = (draft: Draft): number => {
  const gradeId = draft.create('grade', BEGINNING, { code: 'G', name: 'Grade', level: 1, steps: 5 });
  for (let step = 1; step <= 5; step++) {
    if (step < 5) draft.create('grade_step', BEGINNING, { gradeId, step, months: 6 });
    const amount = String(2900 + step * 100);
    draft.create('grade_step_pay', BEGINNING, { gradeId, step, currency: 'EUR', amount, fullTime: 3750 });
  }
  return gradeId;
};

type Try = <K extends MovementKind>(world: World, kind: K, input: MovementInput<K>) => MovedThings | null;

/** Something done with jobs, or with the positions and pay that follow them. */
export const moveJobs = (world: World, tryMovement: Try): void => {
  const { chance, history, positions, jobs, units, lists, grades } = world;
  const firstDay = addDays(history.day, chance.int(-120, 200));
  const roll = chance.next();
  if (roll < 0.2) {
    const made = tryMovement(world, 'copy_position', {
      likeId: chance.pick(positions),
      firstDay,
      standing: 'in_force',
      ...(chance.is(0.5) ? { unitId: chance.pick(units) } : { count: 2 }),
    });
    if (made?.things.positionId) positions.push(made.things.positionId);
  } else if (roll < 0.35)
    tryMovement(world, 'limits_by_season', {
      positionId: chance.pick(positions),
      firstDay,
      lastDay: addDays(firstDay, chance.int(30, 200)),
      years: 2,
      fte: 200,
      places: 2,
      otherFte: chance.int(1, 2) * 100,
    });
  else if (roll < 0.5 || jobs.length === 1) {
    const made = tryMovement(world, 'new_job', {
      firstDay,
      fromBeginning: chance.is(0.5),
      code: `J${history.lastId}`,
      name: 'Another job',
      ...(chance.is(0.5)
        ? { likeId: chance.pick(jobs), parts: chance.pick([['terms'], ['tasks', 'skills'], [...jobParts]]) }
        : { taskIds: [lists['LOOKOUT'] as number] }),
    });
    if (made?.things.jobId) jobs.push(made.things.jobId);
  } else if (roll < 0.62)
    tryMovement(world, 'change_job', {
      jobId: chance.pick(jobs),
      firstDay,
      ...chance.pick([
        { hours: chance.pick([3000, 3750]) },
        { title: `Title ${chance.int(1, 9)}` },
        { gradeId: chance.pick(grades), fte: 100 },
      ]),
      followers: chance.pick(['follow', 'keep'] as const),
      others: [chance.pick(positions)],
    });
  else if (roll < 0.8) {
    const [jobId, likeId] = [jobs.at(-1), jobs[0]] as [number, number];
    tryMovement(world, 'copy_into_job', { jobId, likeId, firstDay, parts: [...jobParts] });
  } else {
    const due = [...history.register.things('employment')].filter((id) => {
      const next = nextStep(history.register, id, firstDay);
      return next?.due && next.due <= firstDay;
    });
    if (due.length > 0) tryMovement(world, 'apply_steps', { firstDay, employmentIds: due.slice(0, 3) });
  }
};
