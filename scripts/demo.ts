// npm run demo -- PEOPLE [ANCHOR]: fills the empty database of DATABASE_URL with the demo for any number of people (COPY).
import { type Day, Day as DaySchema } from '@gremium/contract';
import { migrate, one, ownerPool, sql } from '@gremium/server';
import { fillWithDemo } from '../demo/make';

const url = process.env['DATABASE_URL'];
const people = Number(process.argv[2] ?? 1250);
const anchor = DaySchema.parse(process.argv[3] ?? new Date().toISOString().slice(0, 10)) as Day;
if (!url) throw new Error('Name an empty database in DATABASE_URL');
const pool = ownerPool(url);
await migrate(pool);
const { number } = await one<{ number: number }>(pool, sql`select number from journal_head`);
if (number > 0) throw new Error('The database is not empty');
const began = Date.now();
await fillWithDemo(pool, anchor, people);
const { n } = await one<{ n: number }>(pool, sql`select count(*)::int as n from placement_version`);
console.log(
  `${people} people at work, ${n} placement versions, in ${Math.round((Date.now() - began) / 1000)} s`,
);
await pool.end();
