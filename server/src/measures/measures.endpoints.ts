import { type Day, type Viewer, gives, measureEndpoints } from '@gremium/contract';
import {
  type Flow,
  type Key,
  type KeyOf,
  type Presence,
  addDays,
  addMonths,
  byDimension,
  endOfMonth,
  flowsOf,
  headcountAtClose,
  perPerson,
  startOfMonth,
  turnover,
  unitInside,
} from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { serve } from '../serve';
import { todayOf } from '../structure/organisation.sql';
import type { Server } from '../time/act';
import type { RegisterCache, Whole } from './register-cache';

const OUTSIDE = -1;
const MOST_MONTHS = 240;

export const serveMeasures = (app: FastifyInstance, server: Server, cache: RegisterCache): void => {
  serve(app, server, measureEndpoints.headcount, async ({ query, viewer }) => {
    const { from, until, by } = query;
    if (until < from) fail('period', { from, until }, 'until');
    const months = monthsBetween(from, until);
    if (months.length > MOST_MONTHS) fail('value_invalid', { most: MOST_MONTHS }, 'until');
    const whole = await cache.whole(null);
    const keyOf = scoped(whole, viewer, byDimension(by));
    const flows = perPerson(whole.presences()).flatMap((own) => flowsOf(whole.register, own, keyOf));
    return { months: months.map((month) => monthOf(whole, month, keyOf, flows)) };
  });

  serve(app, server, measureEndpoints.turnover, async ({ query, viewer }) => {
    const whole = await cache.whole(null);
    const on = query.on ?? (await todayOf(server.pool, server.clock));
    return turnover(whole.register, whole.presences(), { on, by: scoped(whole, viewer, () => 0) });
  });
};

const monthsBetween = (from: Day, until: Day): Day[] => {
  const months: Day[] = [];
  for (
    let month = startOfMonth(from);
    month <= until && months.length <= MOST_MONTHS;
    month = addMonths(month, 1)
  )
    months.push(month);
  return months;
};

const monthOf = ({ register, presences }: Whole, month: Day, keyOf: KeyOf, flows: Flow[]) => {
  const end = endOfMonth(month);
  const opening = headcountAtClose(register, presences(), addDays(month, -1), keyOf);
  const closing = headcountAtClose(register, presences(), end, keyOf);
  const here = flows.filter(({ on }) => month <= on && on <= end);
  const keys = new Set<Key>([...opening.keys(), ...closing.keys(), ...here.map(({ key }) => key)]);
  keys.delete(OUTSIDE);
  const count = (key: Key, kind: Flow['kind']) =>
    here.filter((flow) => flow.key === key && flow.kind === kind).length;
  return {
    month: month.slice(0, 7),
    values: [...keys].map((key) => ({
      key,
      opening: opening.get(key) ?? 0,
      joiners: count(key, 'joiner'),
      in: count(key, 'in'),
      leavers: count(key, 'leaver'),
      out: count(key, 'out'),
      closing: closing.get(key) ?? 0,
    })),
  };
};

// What lies outside the viewer's scope gets one key of its own, which is left out: a move over the border is an "in".
const scoped = ({ register }: Whole, viewer: Viewer, keyOf: KeyOf): KeyOf => {
  const grants = viewer.grants.filter((grant) => gives(grant, 'placement', 'view'));
  if (grants.some(({ scope }) => scope.type === 'all')) return keyOf;
  const roots = grants.flatMap(({ scope }) => (scope.type === 'branch' ? [scope.unitId] : []));
  const isInside = (presence: Presence) =>
    roots.some((root) => {
      const { unit } = presence.keys;
      const within = { from: presence.from, until: addDays(presence.from, 1) };
      return unit !== null && unitInside(register, unit, root, within).length > 0;
    });
  const known = new Map<Presence, boolean>();
  return (presence) => {
    const inside = known.get(presence) ?? isInside(presence);
    known.set(presence, inside);
    return inside ? keyOf(presence) : OUTSIDE;
  };
};
