import {
  type CrossQuery,
  type Day,
  type DimensionName,
  ReasonClass,
  type WhyFileQuery,
  DimensionName as Dimensions,
  measureEndpoints,
} from '@gremium/contract';
import { type Key, type Narrowing, completedMonths, endOfMonth } from '@gremium/core';
import type { FastifyInstance } from 'fastify';
import { fail } from '../database/failure';
import { serve } from '../serve';
import type { Server } from '../time/act';
import { look } from '../time/lens';
import { crossTableFile } from './cross-table-file';
import { figureFile } from './figure-file';
import type { RegisterThread } from '../time/register-thread';

const MOST_MONTHS = 240;

export const serveMeasures = (app: FastifyInstance, server: Server, register: RegisterThread): void => {
  const { pool, clock } = server;

  serve(app, server, measureEndpoints.crossTable, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    return register.write('crossTable', { viewer, looking }, askOf(query));
  });

  serve(app, server, measureEndpoints.crossTableFile, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const table = await register.ask('crossTable', { viewer, looking }, askOf(query));
    return crossTableFile(table, query, query.recordedBy ?? clock.now());
  });

  serve(app, server, measureEndpoints.why, async ({ query, viewer }) => {
    const { limit, offset } = query;
    const looking = await look(pool, clock, query);
    return register.write('why', { viewer, looking }, { ...cellOf(query), page: { limit, offset } });
  });

  serve(app, server, measureEndpoints.whyFile, async ({ query, viewer }) => {
    const looking = await look(pool, clock, query);
    const { month } = query;
    const table = await register.ask(
      'crossTable',
      { viewer, looking },
      askOf({ ...query, from: month, until: month }),
    );
    const found = await register.ask('why', { viewer, looking }, cellOf(query));
    return figureFile(found, table, { query, moment: query.recordedBy ?? clock.now() });
  });

  serve(app, server, measureEndpoints.headcount, async ({ query, viewer }) => {
    const { from, until, by } = query;
    refuseLong(from, until);
    const looking = await look(pool, clock, {});
    return { months: await register.ask('flows', { viewer, looking }, { by, from, until }) };
  });

  serve(app, server, measureEndpoints.turnover, async ({ query, viewer }) => {
    const looking = await look(pool, clock, { on: query.on && endOfMonth(query.on) });
    const month = (query.on ?? looking.today).slice(0, 7);
    const day = `${month}-01` as Day;
    const ask = {
      measure: 'turnover',
      by: 'whole',
      from: day,
      until: day,
      narrowing: { dimensions: {} },
    } as const;
    const on = endOfMonth(day);
    const { value, leavers, average } = await register.ask(
      'why',
      { viewer, looking: { ...looking, on } },
      {
        ask,
        key: 'all',
        month,
      },
    );
    return { rate: value, leavers, average: average ?? 0 };
  });
};

const refuseLong = (from: Day, until: Day): void => {
  if (until < from) fail('period', { from, until }, 'until');
  if (completedMonths(from, until) >= MOST_MONTHS) fail('value_invalid', { most: MOST_MONTHS }, 'until');
};

const askOf = ({ measure, by, from, until, narrow }: Omit<CrossQuery, 'on' | 'recordedBy'>) => {
  const ask = { measure, by, from: `${from}-01` as Day, until: endOfMonth(`${until}-01` as Day) };
  refuseLong(ask.from, ask.until);
  return { ...ask, narrowing: narrowingOf(narrow) };
};

const cellOf = (query: Omit<WhyFileQuery, 'format' | 'language'>) => {
  const { key, month, from, until } = query;
  const ask = askOf(query);
  if (month < from || month > until) fail('period', { from: month, until }, 'month');
  return { ask, month, key: key === 'all' ? key : keyOf(ask.by, key) };
};

const keyOf = (by: DimensionName, text: string): Key => {
  if (text === '-') return null;
  if (by === 'country') return text;
  const key = Number(text);
  return Number.isInteger(key) ? key : fail('value_invalid', {}, 'key');
};

/** The narrowing that a query's text says. */
export const narrowingOf = (text: string): Narrowing => {
  const narrowing: Narrowing = { dimensions: {} };
  for (const part of text.split(';').filter(Boolean)) {
    const [name = '', values = ''] = part.split(':');
    const dimension = Dimensions.safeParse(name).data;
    if (name === 'class') {
      narrowing.classes = values
        .split(',')
        .map((value) => ReasonClass.safeParse(value).data ?? fail('value_invalid', {}, 'narrow'));
    } else if (!dimension || dimension === 'whole') fail('value_invalid', {}, 'narrow');
    else narrowing.dimensions[dimension] = values.split(',').map((value) => keyOf(dimension, value));
  }
  return narrowing;
};
