// Movements on their way: who may see which, what is still to be said of them, what was done with them.
import {
  type Day,
  type Moment,
  type MovementKind,
  type Right,
  type Saying,
  type SectionName,
  movementKinds,
  movementOf,
  may,
} from '@gremium/contract';
import { reachOf } from '../access/scope.sql';
import { type Sql, empty, join, sql } from '../database/sql';
import type { Seer } from '../time/catalogues';

const moment = (column: Sql): Sql =>
  sql`to_char(${column} at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')`;

export type Line = {
  id: number;
  account: number;
  key: string;
  kind: MovementKind;
  state: 'draft' | 'conditions_open' | 'recorded';
  revision: number;
  about: string;
  input: Record<string, unknown>;
  /** What was typed of it; told to nobody but whoever goes on with it. */
  typed: Record<string, string>;
  keptAt: Moment;
  requester: string;
  entry: number | null;
  entryId: number | null;
  /** It is the viewer's, or they have its right over what it is about. */
  byRight: boolean;
  words: Record<string, string>;
  conditions: { place: number; line: string; metAt: Moment | null; metBy: string | null }[];
  sayings: {
    what: Saying;
    placementId: number | null;
    planned: Day;
    said: Day | null;
    saidAt: Moment | null;
    saidBy: string | null;
    entryId: number | null;
  }[];
};

// Kinds of movements by what they need.
const byRights = (): { right: Right; kinds: MovementKind[] }[] => {
  const groups = new Map<string, { right: Right; kinds: MovementKind[] }>();
  for (const kind of movementKinds) {
    const { right } = movementOf(kind);
    const key = JSON.stringify(right);
    const group = groups.get(key) ?? { right, kinds: [] };
    groups.set(key, { right, kinds: [...group.kinds, kind] });
  }
  return [...groups.values()];
};

const HIDDEN_KINDS = ['person', 'position', 'unit'] as const;

/** Whether the viewer has the right of a movement (`m`) over what it is about: where it is today. */
const inTheirPart = (viewer: Seer, today: Day): Sql => {
  const parts = byRights().flatMap(({ right, kinds }) => {
    const grants = may(viewer).with(right);
    if (grants.length === 0) return [];
    const narrowed: Seer = { ...viewer, grants };
    const reached = HIDDEN_KINDS.flatMap((kind) => {
      const reach = reachOf(narrowed, kind as SectionName, today);
      if (reach === 'nothing') return [];
      if (reach === 'all') return [sql`m.about_kind = ${kind}`];
      return [sql`m.about_kind = ${kind} and m.about_id in (select s.thing from (${reach}) s)`];
    });
    const others = sql`m.about_kind <> all(${[...HIDDEN_KINDS]}::text[])`;
    return [sql`(m.kind = any(${kinds}::text[]) and (${join([others, ...reached], ' or ')}))`];
  });
  return parts.length === 0 ? sql`false` : sql`(${join(parts, ' or ')})`;
};

// What is said of a movement, planned as the register stands now: of what begins or ends otherwise since.
const sayings = sql`
  select s.movement_id, jsonb_agg(jsonb_build_object('what', s.what, 'placementId', s.placement_id,
    'planned', coalesce(
      case s.what when 'started' then p.first when 'back' then p.last + 1 else case when s.placement_id is null then null else p.first - 1 end end,
      s.planned)::text,
    'said', s.said::text, 'saidAt', ${moment(sql`s.said_at`)}, 'saidBy', (select a.name from account a where a.id = s.said_by),
    'entryId', (select e.id from entry e where e.number = s.entry_number)) order by s.planned, s.what) as list
  from movement_saying s
  left join lateral (
    select min(v.valid_from) as first, case when max(v.valid_until) = 'infinity' then null else max(v.valid_until) - 1 end as last
    from placement_version v where v.placement_id = s.placement_id and v.superseded_by is null
  ) p on true`;

const lines = (viewer: Seer, today: Day, condition: Sql, order: Sql): Sql => sql`
  select m.id, m.account_id as account, m.key, m.kind, m.state, m.revision, m.about, m.input, m.typed, m.words,
    ${moment(sql`m.kept_at`)} as "keptAt", a.name as requester, m.entry_number as entry,
    (select e.id from entry e where e.number = m.entry_number) as "entryId",
    ${inTheirPart(viewer, today)} as "byRight",
    coalesce((select jsonb_agg(jsonb_build_object('place', c.place, 'line', c.line, 'metAt', ${moment(sql`c.met_at`)},
      'metBy', (select b.name from account b where b.id = c.met_by)) order by c.place)
      from movement_condition c where c.movement_id = m.id), '[]') as conditions,
    coalesce((select t.list from (${sayings} where s.movement_id = m.id group by s.movement_id) t), '[]') as sayings
  from movement m join account a on a.id = m.account_id
  where (m.account_id = ${viewer.account} or ${inTheirPart(viewer, today)}) and (${condition})
  ${order}`;

export type Narrowing = { kind: string | null; text: string };

// In what it is about by its names, or in who asked for it.
const narrowed = (viewer: Seer, today: Day, { kind, text }: Narrowing): Sql => {
  const parts: Sql[] = [];
  if (kind !== null) parts.push(sql`m.kind = ${kind}`);
  if (text !== '') {
    const like = `%${text.replaceAll(/[\\%_]/g, '\\$&').toLowerCase()}%`;
    parts.push(sql`(lower(a.name) like ${like} or m.about_kind = 'person' and ${inTheirPart(viewer, today)} and m.about_id in (
      select n.person_id from person_name_version n where n.superseded_by is null
        and lower(concat_ws(' ', coalesce(n.preferred, n.given), n.family)) like ${like}))`);
  }
  return parts.length === 0 ? empty : sql`and ${join(parts, ' and ')}`;
};

/** What is in preparation or waits for conditions, latest first. */
export const openLines = (viewer: Seer, today: Day, narrowing: Narrowing, limit: number): Sql =>
  lines(
    viewer,
    today,
    sql`m.state <> 'recorded' ${narrowed(viewer, today, narrowing)}`,
    sql`order by m.kept_at desc, m.id desc limit ${limit}`,
  );

/** What is to be said by a day, earliest first. */
export const unsaidLines = (
  viewer: Seer,
  today: Day,
  { until, limit, ...narrowing }: Narrowing & { until: Day; limit: number },
): Sql =>
  lines(
    viewer,
    today,
    sql`m.state = 'recorded' and exists (select from movement_saying s where s.movement_id = m.id
      and (s.said is null or s.entry_number is not null) and s.planned <= ${until}::date) ${narrowed(viewer, today, narrowing)}`,
    sql`order by (select min(s.planned) from movement_saying s where s.movement_id = m.id and s.said is null), m.id limit ${limit}`,
  );

/** What is recorded, latest first. */
export const recordedLines = (
  viewer: Seer,
  today: Day,
  { offset, limit, ...narrowing }: Narrowing & { offset: number; limit: number },
): Sql =>
  lines(
    viewer,
    today,
    sql`m.state = 'recorded' ${narrowed(viewer, today, narrowing)}`,
    sql`order by m.entry_number desc limit ${limit} offset ${offset}`,
  );

export const lineBy = (viewer: Seer, today: Day, id: number): Sql =>
  lines(viewer, today, sql`m.id = ${id}`, empty);

/** A row where a thing is reached. */
export const isReached = (reach: Sql, thing: number): Sql =>
  sql`select s.thing from (${reach}) s where s.thing = ${thing} limit 1`;

export const resultOf = (id: number): Sql => sql`select result from movement where id = ${id}`;

/** Turns a movement: only from the state that was looked at. Nothing comes back where something was done meanwhile. */
export const turn = (
  id: number,
  {
    revision,
    from,
    to,
  }: { revision: number; from: readonly string[]; to: { state?: string; account?: number } },
): Sql => sql`
  update movement set revision = revision + 1, state = coalesce(${to.state ?? null}, state),
    account_id = coalesce(${to.account ?? null}, account_id)
  where id = ${id} and revision = ${revision} and state = any(${from}::text[])
  returning key`;

export type ActDone = {
  account: number;
  at: string;
  act: string;
  day?: string | null;
  word?: string | null;
  entry?: number | null;
};

export const addAct = (movement: number, { account, at, act, day, word, entry }: ActDone): Sql => sql`
  insert into movement_act (movement_id, at, account_id, act, day, word, entry_number)
  values (${movement}, ${at}::timestamptz, ${account}, ${act}, ${day ?? null}::date, ${word ?? null}, ${entry ?? null})`;

export const actsOf = (movement: number): Sql => sql`
  select ${moment(sql`t.at`)} as at, a.name as by, t.act, t.day::text as day, t.word, t.entry_number as entry
  from movement_act t join account a on a.id = t.account_id where t.movement_id = ${movement} order by t.id`;

/** Hands a movement in to wait for its conditions; nothing comes back where it is recorded already. */
export const handIn = (
  account: number,
  kept: { key: string; kind: string; about: string; input: string; words: string; at: string },
): Sql => sql`
  insert into movement as m (account_id, key, kind, about, state, input, typed, words, kept_at)
  values (${account}, ${kept.key}, ${kept.kind}, ${kept.about}, 'conditions_open', ${kept.input}::jsonb, '{}', ${kept.words}::jsonb,
    ${kept.at}::timestamptz)
  on conflict (account_id, key) do update set state = 'conditions_open', kind = excluded.kind, about = excluded.about,
    input = excluded.input, typed = excluded.typed, words = excluded.words, kept_at = excluded.kept_at, revision = m.revision + 1
  where m.state = 'draft'
  returning m.id`;

export const setConditions = (movement: number, conditions: readonly string[]): Sql => sql`
  with gone as (delete from movement_condition where movement_id = ${movement} and place >= ${conditions.length})
  insert into movement_condition (movement_id, place, line)
  select ${movement}, place - 1, line from unnest(${conditions}::text[]) with ordinality t (line, place)
  on conflict (movement_id, place) do update set line = excluded.line,
    met_at = case when movement_condition.line = excluded.line then movement_condition.met_at end,
    met_by = case when movement_condition.line = excluded.line then movement_condition.met_by end`;

export const tick = (
  movement: number,
  { place, at, account }: { place: number; at: string | null; account: number | null },
): Sql => sql`
  update movement_condition set met_at = ${at}::timestamptz, met_by = ${account}
  where movement_id = ${movement} and place = ${place} returning place`;

/** What is to be said of a movement that was just recorded. */
export const addSaying = (
  movement: number,
  { what, planned, placement }: { what: Saying; planned: string; placement: number | null },
): Sql => sql`
  insert into movement_saying (movement_id, what, placement_id, planned)
  values (${movement}, ${what}, ${placement}, ${planned}::date) on conflict (movement_id, what) do nothing`;

/** Says something of a movement; that nobody has, or that what they said was undone, is asked before. */
export const say = (
  movement: number,
  said: { what: Saying; day: string; at: string; account: number },
): Sql => sql`
  update movement_saying set said = ${said.day}::date, said_at = ${said.at}::timestamptz, said_by = ${said.account}, entry_number = null
  where movement_id = ${movement} and what = ${said.what}`;

/** The same of the movement by which a placement began, with the entry that the register followed by. */
export const sayOf = (
  placement: number,
  said: { what: Saying; day: string; at: string; account: number; entry: number },
): Sql => sql`
  update movement_saying set said = ${said.day}::date, said_at = ${said.at}::timestamptz, said_by = ${said.account},
    entry_number = ${said.entry}
  where placement_id = ${placement} and what = ${said.what}
  returning movement_id as id`;

/** What is planned otherwise from now on. */
export const replan = (placement: number, { what, day }: { what: Saying; day: string }): Sql => sql`
  update movement_saying set planned = ${day}::date where placement_id = ${placement} and what = ${what} and said is null
  returning movement_id as id`;
