// Previews about somebody out of sight say what they would say of somebody who does not exist: every section by every mode, every
// kind of act that is about people, over people never seen and over those who once were in sight.
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { endpoints, preset, presets, storageOf } from '@gremium/contract';
import { raw } from '@gremium/server';
import { type Client, type Running, asAccount, many, one, sql, startServer, vacantPosition } from './harness';

let running: Running;
let specialist: Client;
let position: number;
let reason: number;
/** People whom the specialist does not see today: with what is theirs. */
let hidden: { once: boolean; person: number; employment: number; placement: number }[];

const NOBODY = 999_000_000;
const FROM = '2027-03-01';

beforeAll(async () => {
  running = await startServer('demo');
  const fleet = await one<{ id: number }>(
    running.owner,
    sql`select unit_id as id from unit_version where name = 'Fleet' and superseded_by is null limit 1`,
  );
  const grants = presets.specialist(fleet.id);
  specialist = await asAccount(running, 'alike@own.example', grants);
  // of the specialist's own: what is wrong is the person alone
  position = await vacantPosition(running, specialist, 'Deck%');
  ({ reason } = await one<{ reason: number }>(
    running.owner,
    sql`select list_entry_id as reason from list_entry_version where code = 'RESIGNED' and superseded_by is null`,
  ));
  hidden = await many(
    running.owner,
    sql`with recursive b (id) as (
        select ${fleet.id}::bigint union select v.unit_id from unit_version v join b on v.parent_id = b.id where v.superseded_by is null),
      held as (select e.person_id, e.employment_id, p.placement_id, p.valid_until, o.unit_id in (select id from b) as inside
        from employment_version e join placement_version p on p.employment_id = e.employment_id and p.superseded_by is null
        join position_version o on o.position_id = p.position_id and o.superseded_by is null
        where e.superseded_by is null and e.valid_until = 'infinity'),
      people as (select person_id, bool_or(inside) as once, min(employment_id) as employment,
          min(placement_id) filter (where valid_until = 'infinity') as placement
        from held group by person_id
        having not bool_or(inside and valid_until > '2026-11-23') and bool_or(valid_until = 'infinity'))
      (select once, person_id as person, employment, placement from people where once order by 1 limit 6)
      union all (select once, person_id, employment, placement from people where not once order by 1 limit 6)`,
  );
});
afterAll(() => running.close());

type Said = string;
const saidTo = async (call: () => Promise<Response>, ids: readonly number[]): Promise<Said> => {
  const response = await call();
  let text = await response.text();
  for (const id of new Set([...ids, NOBODY])) text = text.replaceAll(new RegExp(`\\b${id}\\b`, 'g'), 'ID');
  return `${response.status} ${text}`;
};

const edits = (body: object) => () => specialist.send(endpoints.saveEdits, { body: body as never });
const moves = (kind: string, input: object) => () =>
  specialist.send(endpoints.move, { body: { kind, input, preview: true } as never });

const OWNERS = { person: 'person', employment: 'employment', placement: 'placement' } as const;

test('edits of every section of theirs', async () => {
  expect(hidden.length).toBe(12);
  const differ: string[] = [];
  let tried = 0;
  for (const section of preset.sections) {
    const { name, kind, owner } = section;
    const whose = owner ? OWNERS[owner.kind as 'person'] : OWNERS[kind as 'person'];
    if (!whose) continue;
    for (const one of hidden) {
      const [row] = await many<{ id: number; thing: number; values: Record<string, unknown> }>(
        running.owner,
        owner ? sqlOf(name, kind, owner.field, one[whose]) : sqlOf(name, kind, `${kind}_id`, one[whose]),
      );
      if (!row) continue;
      const ids = [row.id, row.thing, one.person, one.employment, one.placement];
      const set = (thing: number, edit: object) =>
        edits({ edits: [{ kind, id: thing, section: name, basedOn: 1_000_000, edit }], preview: true });
      const field = [...section.metas.keys()].find((of) => of !== owner?.field) ?? '';
      const value = { [field]: row.values[snaked(field)] ?? null };
      const pairs: [string, () => Promise<Response>, () => Promise<Response>][] = (
        [
          ['set', { mode: 'set', from: FROM, until: 'infinity', values: value, override: false }],
          ['end', { mode: 'end', lastDay: FROM }],
          ['mend', { mode: 'mend', row: row.id, values: value }],
          ['remove', { mode: 'remove', row: row.id }],
        ] as [string, object][]
      ).map(([mode, edit]) => [
        mode,
        set(row.thing, edit),
        set(NOBODY, 'row' in edit ? { ...edit, row: NOBODY } : edit),
      ]);
      if (owner) {
        const create = (of: number) =>
          edits({
            edits: [
              {
                section: name,
                edit: {
                  mode: 'create',
                  from: FROM,
                  values: { ...valuesOf(section, row.values), [owner.field]: of },
                },
              },
            ],
            preview: true,
          });
        pairs.push(['create', create(one[whose]), create(NOBODY)]);
      }
      for (const [mode, theirs, nobodys] of pairs) {
        const [a, b] = [await saidTo(theirs, ids), await saidTo(nobodys, ids)];
        tried++;
        // what ended while they were theirs is seen, and after it there is nothing that could be changed
        const isOver = /^200 .*"(no_version_on_day|nothing_changed)"/.test(a) && a.includes('"rows":[]');
        if (a !== b && !(one.once && ((a.startsWith('403') && isBare(a, name)) || isOver)))
          differ.push(`${name} ${mode}: ${a.slice(0, 600)} / ${b.slice(0, 300)}`);
      }
    }
  }
  expect(tried).toBeGreaterThan(400);
  expect(differ).toEqual([]);
});

test('acts about them', async () => {
  const differ: string[] = [];
  for (const one of hidden) {
    const ids = [one.person, one.employment, one.placement];
    const of = (person: number, employment: number): [string, object][] => [
      ['rehire', { personId: person, positionId: position, firstDay: FROM }],
      ['transfer', { personId: person, positionId: position, firstDay: FROM }],
      ['leave', { employmentId: employment, lastDay: FROM, reasonId: reason }],
      ['give_honour', { personIds: [person], honourId: 1, awardedOn: '2026-11-01' }],
    ];
    const theirs = of(one.person, one.employment);
    for (const [i, [kind, input]] of of(NOBODY, NOBODY).entries()) {
      const [a, b] = [
        await saidTo(moves(kind, (theirs[i] as [string, object])[1]), ids),
        await saidTo(moves(kind, input), ids),
      ];
      if (a !== b) differ.push(`${kind}: ${a.slice(0, 600)} / ${b.slice(0, 300)}`);
    }
  }
  expect(differ).toEqual([]);
});

const snaked = (field: string): string => field.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
const sqlOf = (name: string, kind: string, field: string, id: number) =>
  sql`select (v.j ->> 'id')::bigint as id, (v.j ->> ${`${kind}_id`})::bigint as thing, v.j as values
    from (select to_jsonb(t) as j from ${raw(`"${name}_version"`)} t) v
    where v.j ->> 'superseded_by' is null and (v.j ->> ${snaked(field)})::bigint = ${id}
    and (v.j ->> 'valid_from') <= '2026-11-23' and (v.j ->> 'valid_until') > '2026-11-23'
    order by 1 desc limit 1`;

type OfSection = (typeof preset.sections)[number];
const valuesOf = ({ metas }: OfSection, row: Record<string, unknown>) =>
  Object.fromEntries(
    [...metas].map(([field, meta]) => {
      const value = row[snaked(field)] ?? null;
      return [field, storageOf(meta) === 'decimal' && value !== null ? String(value) : value];
    }),
  );

// That the right is missing and who gives it, and nothing else: who once was in sight is known to be there.
const isBare = (said: string, section: string): boolean => {
  const { problems } = JSON.parse(said.slice(4)) as { problems: object[] };
  const params = { section, given: section, who: 'Tuuli Kaskela' };
  return JSON.stringify(problems) === JSON.stringify([{ code: 'right_missing', severity: 'error', params }]);
};
