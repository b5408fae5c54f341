import { type Found, type PersonLine, type Viewer, recordEndpoints } from '@gremium/contract';
import { type Register, fold, markOf } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { many } from '../database/sql';
import type { RegisterCache } from '../measures/register-cache';
import { reachOf } from '../access/scope.sql';
import { people } from '../people/people.sql';
import { serve } from '../serve';
import type { Server } from './act';
import { type Looking, look } from './lens';
import { visibleThings } from './records.sql';

const MOST = 6;

export const serveFind = (app: FastifyInstance, server: Server, cache: RegisterCache): void => {
  const { pool, clock } = server;

  const findPeople = async (viewer: Viewer, search: string, looking: Looking): Promise<Found[]> => {
    if (reachOf(viewer, 'person_name', looking.today) === 'nothing') return [];
    const found: PersonLine[] = [];
    for (const status of ['here', 'coming', 'left'] as const) {
      if (found.length >= MOST) break;
      const page = { search, status, limit: MOST - found.length, offset: 0 };
      found.push(...(await many<PersonLine>(pool, people(viewer, page, looking))));
    }
    return found.map(({ id, name, title, unit, number }) => ({
      kind: 'person',
      id,
      name,
      about: [title, unit].filter(Boolean).join(', ') || number,
    }));
  };

  serve(app, server, recordEndpoints.find, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { register } = await cache.whole(looking.by);
    const found = query.free ? [] : await findPeople(viewer, query.text, looking);
    const kinds = query.free ? (['position'] as const) : (['position', 'unit', 'job'] as const);
    for (const kind of kinds) {
      const candidates = named(register, kind, query.text, looking)
        .filter((one) => !query.free || isFree(register, looking, one))
        .slice(0, 200);
      const ids = candidates.map(({ id }) => id);
      const seen = new Set(
        (await many<{ id: number }>(pool, visibleThings(viewer, kind, ids, looking))).map(({ id }) => id),
      );
      found.push(...candidates.filter(({ id }) => seen.has(id)).slice(0, MOST));
    }
    return { found };
  });
};

const isFree = (register: Register, { on }: Looking, { id }: Found): boolean => {
  const mark = markOf(register, id, on);
  return mark === 'vacant' || mark === 'part_filled';
};

// Every word must begin a word of the name or code, or stand anywhere in the name; those that begin with it come first.
const named = (
  register: Register,
  kind: 'position' | 'unit' | 'job',
  text: string,
  { on }: Looking,
): Found[] => {
  const words = fold(text).split(' ').filter(Boolean);
  const matching: (Found & { rank: number })[] = [];
  for (const { thing: id, values } of register.allOn(kind, on)) {
    const name = 'title' in values && kind === 'position' ? values.title : (values as { name: string }).name;
    const unitId = (values as { unitId?: number }).unitId;
    const unit = unitId === undefined ? undefined : register.at('unit', unitId, on)?.name;
    const folded = fold(`${name} ${values.code} ${unit ?? ''}`);
    if (!words.every((word) => folded.includes(word))) continue;
    const rank = fold(name).startsWith(words.join(' ')) ? 0 : 1;
    matching.push({ kind, id, name, about: [unit, values.code].filter(Boolean).join(' · '), rank });
  }
  return matching
    .sort((a, b) => a.rank - b.rank || a.name.length - b.name.length || a.id - b.id)
    .map(({ rank: _, ...found }) => found);
};
