import { type RecordOut, type Row, peopleEndpoints } from '@gremium/contract';
import { bareNumber, byFrom, isBefore, isOn, spokenName, withoutHidden } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { many } from '../database/sql';
import { FileOut } from '../files/file-out';
import { peopleNumbered } from '../files/import.sql';
import { ownLabels } from '../files/plain-subjects';
import { serve } from '../serve';
import { organisationNow } from '../structure/organisation.sql';
import type { Server } from '../time/act';
import { namesFor } from '../time/labels';
import { type Looking, headNumber, look } from '../time/lens';
import type { Seer } from '../time/catalogues';
import { referenceRows } from '../time/reference-rows';
import { failMissing } from '../time/missing';
import { readPerson, readRecord } from '../time/read-record';
import type { RegisterThread } from '../time/register-thread';
import { seenOf } from '../time/seen';
import { type OutHead, recordJson, sectionsRead } from './record-out';
import { recordPages } from './record-pages';
import type { Language, Saying } from './record-words';

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
    const rows = await many<{ id: number; number: string }>(
      pool,
      peopleNumbered(body.numbers.map(bareNumber)),
    );
    const ids = rows.map(({ id }) => id);
    const seen = new Set(await seenOf(pool, viewer, 'person', ids, looking));
    const refs = ids.filter((id) => seen.has(id)).map((id) => ({ kind: 'person' as const, id }));
    const names = await namesFor(pool, viewer, refs, looking);
    const found = rows.flatMap(({ id, number }) => {
      const name = names.get(`person ${id}`)?.name;
      return name ? [{ id, number, name }] : [];
    });
    const known = new Set(found.map(({ number }) => bareNumber(number)));
    return {
      found: found.map(({ id, name }) => ({ id, name })),
      unknown: body.numbers.filter((number) => !known.has(bareNumber(number))),
    };
  });

  serve(app, server, peopleEndpoints.reportingTree, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    return register.write('reportingTree', { viewer, looking }, { under: query.under ?? null });
  });

  const rowsOf = async (viewer: Seer, looking: Looking, id: number): Promise<Row[]> => {
    const rows = await readPerson(pool, viewer, looking, id);
    if (!rows.some(({ section }) => section === 'person_name'))
      await failMissing(pool, viewer, { kind: 'person', id, section: 'person_name' }, looking);
    return rows;
  };

  serve(app, server, peopleEndpoints.personOut, async ({ params, query, viewer }) => {
    const { format, language, ...lens } = query;
    const looking = await look(pool, clock, lens);
    const rows = await rowsOf(viewer, looking, params.id);
    const record = withoutHidden(await readRecord(pool, viewer, looking, rows), viewer);
    const saying: Saying = {
      ...{ language, catalogue: viewer.catalogue },
      names: await namesOf(viewer, looking, record, language),
      own: await ownLabels(pool, viewer.catalogue),
    };
    const name = rows.filter(({ section }) => section === 'person_name') as unknown as Row<'person_name'>[];
    const person = rows.find(({ section }) => section === 'person') as Row<'person'> | undefined;
    const spoken = spokenName((name.find((row) => isOn(row, looking.on)) ?? name.at(-1))?.values as never);
    const head: OutHead = {
      ...{ title: spoken, number: person?.values.number ?? '' },
      organisation: (await organisationNow(pool, clock)).name,
      on: looking.on,
      recordedBy: lens.recordedBy ?? clock.now(),
      entry: looking.by ?? (await headNumber(pool)),
      by: viewer.name,
    };
    if (format === 'json') return new FileOut(spoken, 'json', recordJson(record, saying, head));
    const pages = await recordPages({ head, language, sections: sectionsRead(record, saying, looking.on) });
    return new FileOut(spoken, 'pdf', pages);
  });

  // What a record names, and what is chosen from lists, in one language.
  const namesOf = async (
    viewer: Seer,
    looking: Looking,
    record: Pick<RecordOut, 'names'>,
    language: Language,
  ) => {
    const names = new Map(record.names.map(({ kind, id, name }) => [`${kind} ${id}`, name]));
    for (const { section, thing, values } of await referenceRows(pool, viewer, looking)) {
      const { kind, base } = viewer.catalogue.section(section);
      const { label, name } = values as { label?: Record<Language, string>; name?: string };
      const called = label ? label[language] : name;
      if (called && base) names.set(`${kind} ${thing}`, called);
    }
    return names;
  };

  serve(app, server, peopleEndpoints.personRecord, async ({ params, query, viewer }) => {
    const looking = await look(pool, clock, query);
    const rows = await rowsOf(viewer, looking, params.id);
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
