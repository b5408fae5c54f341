// Movements on their way in the demo: those of recent hires and transfers with what was said of them, one that waits, one being prepared.
import {
  type Day,
  type MovementInput,
  type MovementKind,
  type Row,
  type SlipValue,
  movementOf,
} from '@gremium/contract';
import { type Register, addDays, inherited, isBefore, markOf } from '@gremium/core';
import { many, one, sql } from '@gremium/server';
import type { Pool } from 'pg';
import type { History, MadeEntry } from './history';

// So far back movements are told; so many days after it nobody has said yet what happened.
const TOLD_DAYS = 90;
const UNSAID_DAYS = 6;

type Told = { kind: MovementKind; entry: MadeEntry; row: Row<'placement'>; personId: number };

const kindOf = ({ kind }: MadeEntry, row: Row<'placement'>): MovementKind | null => {
  if (kind === 'hire' && row.values.kind === 'primary') return 'hire';
  if (kind !== 'transfer') return null;
  return row.values.kind === 'temporary' ? 'transfer_for_a_time' : 'transfer';
};

const recent = (history: History, anchor: Day): Told[] =>
  history.entries.flatMap((entry): Told[] => {
    if (isBefore(entry.moment.slice(0, 10) as Day, addDays(anchor, -TOLD_DAYS)) || entry.undoes.length > 0)
      return [];
    const placements = entry.change.recorded.filter(
      (row): row is Row<'placement'> => row.section === 'placement',
    );
    const row = placements.find(
      ({ values, from }) =>
        !entry.change.superseded.some(
          (was) =>
            was.section === 'placement' && (was as Row<'placement'>).values.positionId === values.positionId,
        ) && from !== '-infinity',
    );
    const kind = row && kindOf(entry, row);
    const personId = row && history.register.rows('employment', row.values.employmentId)[0]?.values.personId;
    return row && kind && personId !== undefined ? [{ kind, entry, row, personId }] : [];
  });

const slipOf = ({ row: { values } }: Told): SlipValue[] => [
  { field: 'positionId', before: null, after: values.positionId, source: 'typed' },
  { field: 'hours', before: null, after: values.hours, source: 'position' },
];

const tell = async (owner: Pool, account: number, anchor: Day, told: Told): Promise<void> => {
  const { kind, entry, row, personId } = told;
  const { employmentId, positionId } = row.values;
  const input = {
    ...(kind === 'hire' ? { person: { id: personId } } : { personId }),
    positionId,
    firstDay: row.from,
    ...(row.until === 'infinity' ? {} : { lastDay: addDays(row.until, -1) }),
  };
  const things = { personId, employmentId, positionId, placementId: row.thing };
  const result = { things, slip: slipOf(told), effects: [], asOf: 0 };
  const { id } = await one<{ id: number }>(
    owner,
    sql`insert into movement (account_id, key, kind, about, state, input, typed, kept_at, entry_number, result)
      select ${account}, ${`demo${entry.id}xxxx`}, ${kind}, ${`person ${personId}`}, 'recorded', ${JSON.stringify(input)}::jsonb, '{}',
        e.moment, e.number, ${JSON.stringify(result)}::jsonb from entry e where e.id = ${entry.id}
      returning id`,
  );
  await many(
    owner,
    sql`insert into movement_act (movement_id, at, account_id, act, entry_number)
      select ${id}, m.kept_at, m.account_id, 'recorded', m.entry_number from movement m where m.id = ${id}`,
  );
  for (const { what, field, after } of movementOf(kind).says ?? []) {
    const planned = addDays((input as unknown as Record<string, Day>)[field] as Day, after);
    const isSaid = isBefore(planned, addDays(anchor, -UNSAID_DAYS));
    const at = `${addDays(planned, 1)}T08:00:00Z`;
    await many(
      owner,
      sql`insert into movement_saying (movement_id, what, placement_id, planned, said, said_at, said_by)
        values (${id}, ${what}, ${row.thing}, ${planned}::date, ${isSaid ? planned : null}::date, ${isSaid ? at : null}::timestamptz,
          ${isSaid ? account : null})`,
    );
    if (isSaid)
      await many(
        owner,
        sql`insert into movement_act (movement_id, at, account_id, act, day)
          values (${id}, ${at}::timestamptz, ${account}, ${what}, ${planned}::date)`,
      );
  }
};

// Somebody to be hired into a free place in the part of an account: one waits for its conditions, one is being written.
const waiting = async (
  owner: Pool,
  { account, anchor, positionId }: { account: number; anchor: Day; positionId: number },
): Promise<void> => {
  const at = `${addDays(anchor, -3)}T09:12:00Z`;
  const input: Partial<MovementInput<'hire'>> = {
    person: {
      name: { given: 'Riina', family: 'Kuldsaar' },
      contacts: [{ kind: 'email', value: 'riina.kuldsaar@post.example' }],
    },
    positionId,
    firstDay: addDays(anchor, 69) as Day,
    pay: [],
    reasonId: null,
  };
  const { id } = await one<{ id: number }>(
    owner,
    sql`insert into movement (account_id, key, kind, about, state, input, typed, kept_at)
      values (${account}, 'demowaiting1', 'hire', ${`position ${positionId}`}, 'conditions_open', ${JSON.stringify(input)}::jsonb, '{}',
        ${at}::timestamptz) returning id`,
  );
  await many(
    owner,
    sql`insert into movement_condition (movement_id, place, line, met_at, met_by)
      values (${id}, 0, 'Medical certificate is on file', ${at}::timestamptz + interval '1 day', ${account}),
        (${id}, 1, 'Contract is signed', null, null)`,
  );
  await many(
    owner,
    sql`insert into movement_act (movement_id, at, account_id, act, word)
      values (${id}, ${at}::timestamptz, ${account}, 'handed_in', null),
        (${id}, ${at}::timestamptz + interval '1 day', ${account}, 'condition_met', 'Medical certificate is on file')`,
  );
  const draft = { positionId, firstDay: addDays(anchor, 40) };
  await many(
    owner,
    sql`insert into movement (account_id, key, kind, about, state, input, typed, kept_at)
      values (${account}, 'demodraft001', 'hire', ${`position ${positionId}`}, 'draft', ${JSON.stringify(draft)}::jsonb, '{}',
        ${at}::timestamptz + interval '2 days')`,
  );
};

// A vacant position in force in Estonia.
const freePlace = (register: Register, anchor: Day): number | undefined =>
  [...register.allOn('position', anchor)].find(({ thing, values }) => {
    const location = inherited(register, values, 'locationId', anchor).value;
    const isThere = location !== null && register.at('location', location, anchor)?.country === 'EE';
    return isThere && markOf(register, thing, anchor) === 'vacant';
  })?.thing;

/** Movements in every state, about what the history tells anyway. */
export const tellMovements = async (owner: Pool, history: History, anchor: Day): Promise<void> => {
  const accounts = await many<{ id: number; email: string }>(owner, sql`select id, email from account`);
  const idOf = (who: string) => accounts.find(({ email }) => email.startsWith(who))?.id ?? accounts[0]!.id;
  for (const told of recent(history, anchor)) await tell(owner, idOf('admin'), anchor, told);
  const positionId = freePlace(history.register, anchor);
  if (positionId !== undefined) await waiting(owner, { account: idOf('estonia'), anchor, positionId });
};
