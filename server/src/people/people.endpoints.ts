import { type PersonLine, type Row, peopleEndpoints } from '@gremium/contract';
import { isOn, managerChain } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { many } from '../database/sql';
import type { RegisterCache } from '../measures/register-cache';
import { serve } from '../serve';
import { managersOut } from '../structure/managers-out';
import type { Server } from '../time/act';
import { look } from '../time/lens';
import { readHistory, readRecord } from '../time/read-record';
import { people } from './people.sql';

export const servePeople = (app: FastifyInstance, server: Server, cache: RegisterCache): void => {
  const { pool, clock } = server;

  serve(app, server, peopleEndpoints.people, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const rows = await many<PersonLine & { total: number }>(pool, people(viewer, query, looking));
    if (rows.length > 0 || query.offset === 0) return { people: rows, total: rows[0]?.total ?? 0 };
    const first = { ...query, limit: 1, offset: 0 };
    const [line] = await many<{ total: number }>(pool, people(viewer, first, looking));
    return { people: [], total: line?.total ?? 0 };
  });

  serve(app, server, peopleEndpoints.personRecord, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const itself = { field: 'thing', ids: [params.id] } as const;
    const own = { field: 'personId', ids: [params.id] } as const;
    const rows = await readHistory(pool, viewer, looking, [
      ['person', itself],
      ['person_name', itself],
      ['contact', own],
      ['employment', own],
    ]);
    if (!rows.some(({ section }) => section === 'person_name')) fail('record_hidden', { kind: 'person' });
    const employments = { field: 'employmentId', ids: thingsOf(rows, 'employment') } as const;
    rows.push(
      ...(await readHistory(pool, viewer, looking, [
        ['contract', employments],
        ['placement', employments],
        ['pay', employments],
      ])),
    );
    const placements = rows.filter(({ section }) => section === 'placement') as unknown as Row<'placement'>[];
    const held = {
      field: 'thing',
      ids: [...new Set(placements.map(({ values }) => values.positionId))],
    } as const;
    rows.push(...(await readHistory(pool, viewer, looking, [['position', held]])));
    const record = await readRecord(pool, viewer, looking, rows);
    const { register } = await cache.whole(looking.by);
    const primary = placements.find((row) => row.values.kind === 'primary' && isOn(row, looking.on));
    const chain = primary ? managerChain(register, primary.values.positionId, looking.on, params.id) : [];
    // whoever sees a placement knows the title of its position, as in the list of people
    const named = new Set(record.names.map(({ kind, id }) => `${kind} ${id}`));
    const titles = held.ids
      .filter((id) => !named.has(`position ${id}`))
      .map((id) => ({
        kind: 'position' as const,
        id,
        name: register.rows('position', id).at(-1)?.values.title ?? '',
      }));
    const position = primary && register.at('position', primary.values.positionId, looking.on);
    const unit = position && register.at('unit', position.unitId, looking.on);
    return {
      ...record,
      names: [...record.names, ...titles],
      managers: await managersOut(pool, viewer, register, { chain, looking }),
      place: position ? { title: position.title, unit: unit?.name ?? '' } : null,
    };
  });
};

const thingsOf = (rows: readonly Row[], section: Row['section']): number[] => [
  ...new Set(rows.filter((row) => row.section === section).map(({ thing }) => thing)),
];
