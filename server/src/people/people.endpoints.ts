import { type Row, peopleEndpoints } from '@gremium/contract';
import { byFrom, isBefore, isOn } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { many } from '../database/sql';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { namesFor } from '../time/labels';
import { look } from '../time/lens';
import { failMissing } from '../time/missing';
import { readPerson, readRecord } from '../time/read-record';
import type { RegisterThread } from '../time/register-thread';
import { seenOf } from '../time/seen';
import { peopleNumbered } from './number.sql';

export const servePeople = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  const { pool, clock } = server;

  serve(app, server, peopleEndpoints.people, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { search, status, branch, location, where, limit, offset } = query;
    const [itself, photos] = [query.itself === 'yes', query.photos === 'yes'];
    const ask = { search, status, branch, itself, location, where, photos, limit, offset };
    return register.write('directory', { viewer, looking }, ask);
  });

  serve(app, server, peopleEndpoints.peopleByNumbers, async ({ body, viewer }) => {
    const looking = await look(pool, clock, {});
    const rows = await many<{ id: number; number: string }>(pool, peopleNumbered(body.numbers));
    const ids = rows.map(({ id }) => id);
    const seen = new Set(await seenOf(pool, viewer, 'person', ids, looking));
    const refs = ids.filter((id) => seen.has(id)).map((id) => ({ kind: 'person' as const, id }));
    const names = await namesFor(pool, viewer, refs, looking);
    const found = rows.flatMap(({ id, number }) => {
      const name = names.get(`person ${id}`)?.name;
      return name ? [{ id, number, name }] : [];
    });
    const known = new Set(found.map(({ number }) => number.toLowerCase()));
    return {
      found: found.map(({ id, name }) => ({ id, name })),
      unknown: body.numbers.filter((number) => !known.has(number.toLowerCase())),
    };
  });

  serve(app, server, peopleEndpoints.reportingTree, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    return register.write('reportingTree', { viewer, looking }, { under: query.under ?? null });
  });

  serve(app, server, peopleEndpoints.personRecord, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const rows = await readPerson(pool, viewer, looking, params.id);
    if (!rows.some(({ section }) => section === 'person_name'))
      await failMissing(pool, viewer, { kind: 'person', id: params.id, section: 'person_name' }, looking);
    const placements = rows.filter(({ section }) => section === 'placement') as unknown as Row<'placement'>[];
    const held = [...new Set(placements.map(({ values }) => values.positionId))];
    const record = await readRecord(pool, viewer, looking, rows);
    // whoever sees a placement knows the title of its position, as in the list of people
    const named = new Set(record.names.map(({ kind, id }) => `${kind} ${id}`));
    const primaries = placements.filter((row) => row.values.kind === 'primary');
    // of whoever left: where they were last
    const primary =
      primaries.find((row) => isOn(row, looking.on)) ??
      primaries
        .filter(({ until }) => !isBefore(looking.on, until))
        .sort(byFrom)
        .at(-1);
    const around = await register.ask(
      'aroundPerson',
      { viewer, looking },
      {
        personId: params.id,
        positionId: primary?.values.positionId ?? null,
        until: primary?.until ?? 'infinity',
        untitled: held.filter((id) => !named.has(`position ${id}`)),
      },
    );
    return {
      ...record,
      names: [...record.names, ...around.titles],
      managers: around.managers,
      place: around.place,
    };
  });
};
