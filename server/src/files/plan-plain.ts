// A file about a plain subject as a decision: what its rows name is loaded, core plans and judges them.
import { setImmediate } from 'node:timers/promises';
import type { Day, DayOrder, PlainColumn, SectionName, Viewer } from '@gremium/contract';
import { plainColumns } from '@gremium/contract';
import { type PlainRow, type PlannedPlain, bareNumber, planPlain } from '@gremium/core';
import { many } from '../database/sql';
import type { Deciding, Decision } from '../time/act';
import { peopleNumbered, positionsCoded } from './import.sql';
import { sight } from './plan-import';
import { plainSection, wordsOf } from './plain-subjects';

export type PlainPlanAsk = {
  subject: string;
  rows: () => Promise<PlainRow[]>;
  viewer: Viewer;
  day: Day;
  workbook: boolean;
  /** Columns of which somebody said which of day and month comes first. */
  orders: ReadonlyMap<string, DayOrder>;
  /** Kinds of things that other files of the same import bring later. */
  later?: ReadonlySet<string>;
  onRow: (done: number, total: number) => void;
};

/** Decides an import about a plain subject. Its problems are those of rows. */
export const planPlainImport = async (
  deciding: Deciding,
  ask: PlainPlanAsk,
): Promise<Decision<PlannedPlain & { standIns: ReadonlySet<string> }>> => {
  const { near, tx, catalogue } = deciding;
  const columns = plainColumns(plainSection(catalogue, ask.subject, ask.viewer));
  const section = catalogue.section(ask.subject);
  const rows = await ask.rows();
  await near.loadAll(
    [...new Set<SectionName>([...catalogue.references, 'unit', 'unit_hiring'])].filter(
      (name) => catalogue.section(name).own === null,
    ),
  );
  const texts = (is: (column: PlainColumn) => boolean): string[] => [
    ...new Set(columns.filter(is).flatMap(({ name }) => rows.flatMap(({ cells }) => cells[name] ?? []))),
  ];
  const names = (...kinds: string[]) =>
    texts(({ meta, kind }) => kinds.includes(meta?.is === 'ref' ? meta.kind : (kind ?? '')));
  const ids = async (query: Parameters<typeof many>[1]) =>
    (await many<{ id: number }>(tx, query)).map(({ id }) => id);
  const people = await ids(peopleNumbered(names('person', 'employment').map(bareNumber)));
  const coded = [
    ...names('position'),
    ...(section.name === 'position' ? texts(({ name }) => name === 'code') : []),
  ];
  const positions = await ids(positionsCoded(coded.map((text) => text.toLowerCase())));
  const own = texts(({ is }) => is === 'id')
    .map(Number)
    .filter(Number.isInteger);
  await near.load([
    ...people.map((id) => ({ kind: 'person' as const, id })),
    ...positions.map((id) => ({ kind: 'position' as const, id })),
    ...own.map((id) => ({ kind: section.kind, id })),
  ]);
  const { owner } = section;
  // rows of one owner are told apart among all of them
  if (owner && owner.field !== 'thing') {
    const owners = owner.kind === 'person' ? people : owner.kind === 'position' ? positions : [];
    if (owners.length > 0) await near.loadNaming(section.name as SectionName, owner.field, owners);
  }
  // what is said by one owner only is looked for among all
  for (const [field, { unique }] of section.metas)
    if (unique)
      await near.loadValued(
        section.name as SectionName,
        field,
        texts(({ name }) => name === field),
      );
  const plan = planPlain(rows, {
    ...deciding,
    register: near.register,
    section,
    columns,
    wordsOf,
    workbook: ask.workbook,
    orders: ask.orders,
    later: ask.later,
    day: ask.day,
    grants: ask.viewer.grants,
    sees: sight(near, ask.viewer, deciding.today),
    ownPerson: ask.viewer.personId,
    onRow: (done) => ask.onRow(Math.min(done, rows.length), rows.length),
  });
  for (;;) {
    const step = plan.next();
    if (step.done) {
      const result = { ...step.value, standIns: new Set<string>() };
      return { change: result.change, problems: [], result, isJudged: true };
    }
    if (step.value === null) await setImmediate();
    else await near.loadFor(step.value);
  }
};
