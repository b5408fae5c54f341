// Views over columns, worked by hand on a small organisation and compared with a plain walk over rows.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { Grant, SectionName, ViewDefinition } from '@gremium/contract';
import { ledgers, preset } from '@gremium/contract';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import { randomHistory } from '../../../demo/random-history';
import { Sight } from '../access/sight';
import { Facts } from '../measures/facts';
import { rounded } from '../structure/fraction';
import { BEGINNING, OPEN, day } from '../time/calendar';
import { Columns } from '../time/columns';
import { Table } from '../time/table';
import { isNeeded } from '../time/setting-laws';
import { ConditionError } from './condition';
import { evaluateView } from './evaluate';
import { fieldsOfSubject, subjectsOf } from './subjects';

const LATER = day('2026-06-01');
const plain = (_: string, value: unknown): unknown => (typeof value === 'bigint' ? String(value) : value);

let world: SmallWorld;
beforeEach(() => {
  world = smallWorld();
});

const ALL: Grant = {
  acts: [],
  scope: { type: 'all' },
  sections: Object.fromEntries(preset.names.map((name) => [name, 'view'])) as Grant['sections'],
};
const without = (...names: SectionName[]): Grant => ({
  ...ALL,
  sections: Object.fromEntries(
    Object.entries(ALL.sections).filter(([name]) => !names.includes(name as SectionName)),
  ),
});

const on = day('2024-06-01');
const viewOf = (more: Partial<ViewDefinition> & Pick<ViewDefinition, 'columns'>): ViewDefinition => ({
  subject: 'person_name',
  condition: '',
  groups: [],
  order: [],
  ...more,
});
const run = (view: ViewDefinition, grants: Grant[] = [ALL]) => {
  const columns = new Columns();
  columns.apply(world.draft.change);
  // what is read from the journal has no rows here
  for (const [name, section] of ledgers)
    columns.keep(name as SectionName, new Table(section, (kind) => columns.thingsOf(kind)));
  for (const section of preset.sections)
    if (section.rare)
      columns.keep(section.name as SectionName, new Table(section, (kind) => columns.thingsOf(kind)));
  const facts = new Facts(columns);
  const viewer = {
    account: 1,
    email: 'a@b.example',
    name: 'A',
    language: 'en' as const,
    personId: null,
    grants,
  };
  const sight = new Sight(facts, viewer, on);
  const labels = {
    labelOf: (_field: unknown, id: number) =>
      (columns.rows('list_entry', id)[0]?.values.code ?? columns.rows('unit', id)[0]?.values.name) ||
      String(id),
    codeOf: (_field: unknown, id: number) =>
      columns.rows('list_entry', id)[0]?.values.code ?? columns.rows('unit', id)[0]?.values.code ?? null,
  };
  const found = evaluateView(facts, sight, { view, on, today: on, labels });
  const cells = [...found.slots].map((_, row) => {
    found.goTo(row);
    return found.columns.map(({ field }) => {
      const value = field?.read(found.cursor) ?? null;
      return value !== null && typeof value === 'object' && 'num' in value ? rounded(value, 2) : value;
    });
  });
  return { ...found, cells };
};

describe('people', () => {
  test('with what they lead to: placement, position, unit, pay; sorted, blanks last', () => {
    const { hired, position, units, lists } = world;
    const a = position(units.terminal, 'Lead');
    const b = position(units.harbour, 'Clerk');
    hired('Berta', a, '2024-01-01', { pay: [{ amount: '3000.50', kindId: lists.BASE }] });
    hired('Anna', b, '2024-03-01', { hours: 1875 });
    const { cells, things, looked } = run(
      viewOf({
        columns: [
          'person_name.name',
          'position.title',
          'unit.name',
          'placement.share',
          'pay.amount',
          'employment.begins',
        ].map((field) => ({ field })),
        order: [{ field: 'pay.amount', down: true }],
      }),
    );
    expect(cells).toEqual([
      ['Berta', 'Lead', 'Terminal', '1.00', '3000.50', '2024-01-01'],
      ['Anna', 'Clerk', 'Harbour', '0.50', null, '2024-03-01'],
    ]);
    expect([things, looked]).toEqual([2, 2]);
  });

  test('of two placements, three contacts and one pay each is counted once: 1 person, 1.0, 4,000', () => {
    const { hired, position, units, lists, draft } = world;
    const first = position(units.terminal, 'First');
    const second = position(units.terminal, 'Second');
    const { employmentId, personId, placementId } = hired('Anna', first, '2024-01-01', {
      hours: 2250,
      pay: [{ amount: '4000', kindId: lists.BASE }],
    });
    const held = world.register.at('placement', placementId, on);
    draft.create('placement', START, { ...held!, positionId: second, kind: 'second', hours: 1500 });
    for (const value of ['+1 11111', '+1 22222'])
      draft.create('contact', BEGINNING, { personId, kind: 'phone', value, use: 'work', primary: false });
    const rows = run(
      viewOf({
        subject: 'placement',
        columns: [
          { field: 'person_name.name', total: 'count' },
          { field: 'placement.share', total: 'sum' },
          { field: 'pay.amount', total: 'sum' },
          { field: 'contact.value', several: 'count' },
        ],
      }),
    );
    expect(rows.matched).toBe(2);
    expect(rows.things).toBe(1);
    const exact = rows.totals.map((total) =>
      total && typeof total.value === 'object' && total.value && 'num' in total.value
        ? rounded(total.value, 2)
        : total?.value,
    );
    expect(exact).toEqual([1, '1.00', '4000.00', undefined]);
    const contacts = rows.columns[3]?.field?.readAll?.(rows.cursor.to(rows.slots[0] as number));
    expect(contacts).toEqual(['+000 11111', '+1 11111', '+1 22222']);
    expect(employmentId).toBeGreaterThan(0);
  });

  test('ten shares of 0.1 total exactly 1', () => {
    const { hired, position, units } = world;
    const place = position(units.terminal, 'Shared', {}, { places: null, fte: null });
    for (const name of 'ABCDEFGHIJ') hired(name, place, '2024-01-01', { hours: 375 });
    const { totals } = run(viewOf({ columns: [{ field: 'placement.share', total: 'sum' }] }));
    expect(totals[0]?.value).toEqual({ num: 1n, den: 1n });
  });

  test('in groups with subtotals, a group within a group; the groups add up', () => {
    const { hired, position, units } = world;
    const at = (unit: number, title: string) => position(unit, title);
    hired('A', at(units.terminal, 'X'), '2024-01-01');
    hired('B', at(units.harbour, 'Y'), '2024-01-01', { hours: 1875 });
    hired('C', at(units.terminal, 'Z'), '2024-01-01', { hours: 1875 });
    hired('D', at(units.terminal, 'X2'), '2024-01-01');
    const { groups, totals } = run(
      viewOf({
        columns: [{ field: 'person_name.name' }, { field: 'placement.hours', total: 'sum' }],
        groups: ['unit.name', 'placement.hours'],
        order: [{ field: 'person_name.name', down: false }],
      }),
    );
    expect(
      groups.map(({ depth, label, first, rows, totals: own }) => [depth, label, first, rows, own[1]?.value]),
    ).toEqual([
      [0, 'Harbour', 0, 1, 1875],
      [1, '1875', 0, 1, 1875],
      [0, 'Terminal', 1, 3, 9375],
      [1, '1875', 1, 1, 1875],
      [1, '3750', 2, 2, 7500],
    ]);
    expect(totals[1]?.value).toBe(11250);
  });
});

describe('a row for each of several', () => {
  const three = () => {
    const { hired, position, units, lists, draft } = world;
    const { personId } = hired('Anna', position(units.terminal, 'X'), '2024-01-01', {
      pay: [{ amount: '4000', kindId: lists.BASE }],
    });
    hired('Berta', position(units.harbour, 'Y'), '2024-01-01', {
      pay: [{ amount: '1000', kindId: lists.BASE }],
    });
    for (const value of ['+1 11111', '+1 22222'])
      draft.create('contact', BEGINNING, { personId, kind: 'phone', value, use: 'work', primary: false });
  };
  const each = { field: 'contact.value', several: 'each', total: 'count' } as const;

  test('whoever leads to them is counted once: 4 rows, 2 people, 2.0, 5,000', () => {
    three();
    const { cells, things, looked, totals } = run(
      viewOf({
        columns: [
          { field: 'person_name.name', total: 'count' },
          each,
          { field: 'placement.share', total: 'sum' },
          { field: 'pay.amount', total: 'sum' },
        ],
        order: [
          { field: 'person_name.name', down: false },
          { field: 'contact.value', down: true },
        ],
      }),
    );
    expect(cells.map((row) => row.slice(0, 2))).toEqual([
      ['Anna', '+1 22222'],
      ['Anna', '+1 11111'],
      ['Anna', '+000 11111'],
      ['Berta', '+000 11111'],
    ]);
    expect([things, looked]).toEqual([2, 4]);
    expect(totals.map((total) => total?.value)).toEqual([
      2,
      4,
      { num: 2n, den: 1n },
      { num: 5000n, den: 1n },
    ]);
  });

  test('a condition on them asks each row; who has none stands there once, without a value', () => {
    three();
    const { draft, hired, position, units } = world;
    const lone = hired('Carla', position(units.company, 'Z'), '2024-01-01').personId;
    const [own] = world.register.referrers('contact', 'personId', lone);
    draft.end('contact', own!.thing, day('2024-02-01'));
    const asked = (condition: string) =>
      run(viewOf({ columns: [{ field: 'person_name.name' }, each], condition }));
    expect(asked('contact.value.startsWith("+1")').cells).toEqual([
      ['Anna', '+1 11111'],
      ['Anna', '+1 22222'],
    ]);
    expect(asked('blank(contact.value)').cells).toEqual([['Carla', null]]);
    expect(asked('contact.value == "+000 11111"')).toMatchObject({ matched: 2, looked: 5, noValue: 1 });
  });

  test('rows of two sections at once are refused, naming the second', () => {
    three();
    const second = { field: 'cost_split.percent', several: 'each' } as const;
    const known = fieldsOfSubject(preset, 'person_name').find(
      ({ isSeveral, section }) => isSeveral && section !== 'contact',
    );
    const other = known ? { ...second, field: known.id } : second;
    expect(() => run(viewOf({ columns: [each, other] }))).toThrow('each_twice');
  });
});

describe('what happened in a period', () => {
  const period = (from: string, until: string) => ({ period: { from, until } });

  test('each version that began in it, bounds included, with all else as it was that day', () => {
    const { hired, position, units, lists, draft } = world;
    const { employmentId } = hired('Anna', position(units.terminal, 'X'), '2024-01-01', {
      pay: [{ amount: '3000', kindId: lists.BASE }],
    });
    const [pay] = world.register.referrers('pay', 'employmentId', employmentId);
    draft.set('pay', pay!.thing, { from: day('2024-03-01'), values: { amount: '3100' } });
    draft.set('pay', pay!.thing, { from: day('2024-05-01'), values: { amount: '3200' } });
    draft.set('unit', units.terminal, { from: day('2024-04-01'), values: { name: 'Quay' } });
    const asked = (from: string, until: string) =>
      run(
        viewOf({
          subject: 'pay',
          columns: ['pay.amount', 'unit.name', 'employment.tenure'].map((field) => ({ field })),
          order: [{ field: 'pay.amount', down: false }],
          ...period(from, until),
        }),
      ).cells;
    expect(asked('2024-03-01', '2024-05-01')).toEqual([
      ['3100.00', 'Terminal', 0],
      ['3200.00', 'Quay', 0],
    ]);
    expect(asked('2024-03-02', '2024-04-30')).toEqual([]);
    // the day looked at is 1 June
    expect(asked('on-92', 'on-31')).toHaveLength(2);
    expect(asked('on-91', 'on-32')).toEqual([]);
    expect(() => asked('2024-05-01', '2024-04-30')).toThrow('period_turned');
  });
});

describe('what a list asks for', () => {
  test('inside a unit: its own and all below, as the tree is on the day', () => {
    const { hired, position, units } = world;
    hired('Anna', position(units.terminal, 'X'), '2024-01-01');
    hired('Berta', position(units.harbour, 'Y'), '2024-01-01');
    hired('Carla', position(units.company, 'Z'), '2024-01-01');
    const inside = (code: string) =>
      run(
        viewOf({ columns: [{ field: 'person_name.name' }], condition: `unit.within == "${code}"` }),
      ).cells.flat();
    expect(inside('Harbour').sort()).toEqual(['Anna', 'Berta']);
    expect(inside('Company')).toHaveLength(3);
    expect(inside('Terminal')).toEqual(['Anna']);
    const third = run(
      viewOf({ subject: 'unit', columns: [{ field: 'unit.name' }], condition: 'size(unit.within) == 3' }),
    );
    expect(third.cells).toEqual([['Terminal']]);
    // who is placed nowhere has no unit to be inside of
    const { draft } = world;
    const lone = draft.create('person', BEGINNING, { number: 'N' } as never);
    draft.begin('person_name', lone, { from: START, until: OPEN }, { given: 'Dora' } as never);
    const of = run(
      viewOf({ columns: [{ field: 'person_name.name' }], condition: 'unit.within == "Company"' }),
    );
    expect(of).toMatchObject({ matched: 3, noValue: 1 });
  });

  test('accents and case aside, and by a name of before', () => {
    const { hired, position, units, draft } = world;
    const { personId } = hired('Zoë', position(units.terminal, 'X'), '2024-01-01');
    draft.set('person_name', personId, { from: day('2024-03-01'), values: { given: 'Łucja Ørsted' } });
    const found = (condition: string) =>
      run(viewOf({ columns: [{ field: 'person_name.formerNames' }], condition })).cells;
    expect(found('person_name.name.contains("lucja orsted")')).toEqual([['Zoë']]);
    expect(found('person_name.formerNames.contains("ZOE")')).toHaveLength(1);
    expect(found('person_name.name.contains("zoe")')).toEqual([]);
  });
});

describe('rights', () => {
  const ground = () => {
    const { hired, position, units, lists } = world;
    hired('A', position(units.terminal, 'X'), '2024-01-01', {
      pay: [{ amount: '3000', kindId: lists.BASE }],
    });
    hired('B', position(units.company, 'Y'), '2024-01-01', { pay: [{ amount: '9000', kindId: lists.BASE }] });
  };

  test('a column that is not the viewer’s is blank and marked; a condition, an order, a group that names it is refused', () => {
    ground();
    const grants = [without('pay')];
    const shown = run(
      viewOf({ columns: [{ field: 'person_name.name' }, { field: 'pay.amount', total: 'sum' }] }),
      grants,
    );
    expect(shown.columns.map(({ why }) => why)).toEqual([null, 'hidden']);
    expect(shown.totals).toEqual([null, null]);
    for (const more of [
      { condition: 'pay.amount > 5000' },
      { order: [{ field: 'pay.amount', down: false }] },
      { groups: ['pay.currency'] },
      { order: [{ field: 'pay.compaRatio', down: false }] },
    ])
      expect(() => run(viewOf({ columns: [{ field: 'person_name.name' }], ...more }), grants)).toThrow(
        ConditionError,
      );
  });

  test('whoever sees a branch gets its rows, and sums of these only', () => {
    ground();
    const branch: Grant = { ...ALL, scope: { type: 'branch', unitId: world.units.harbour } };
    const { cells, totals, looked } = run(
      viewOf({ columns: [{ field: 'person_name.name' }, { field: 'pay.amount', total: 'sum' }] }),
      [branch],
    );
    expect(cells).toEqual([['A', '3000.00']]);
    expect(looked).toBe(1);
    expect(totals[1]?.value).toEqual({ num: 3000n, den: 1n });
  });

  test('every field of every subject names the sections it reads, and is blank without any one of them', () => {
    ground();
    for (const subject of subjectsOf(preset)) {
      const fields = fieldsOfSubject(preset, subject);
      expect(new Set(fields.map(({ id }) => id)).size).toBe(fields.length);
      for (const { id, needs } of fields)
        for (const section of needs) {
          if (section === subject) continue;
          const [column] = run(viewOf({ subject, columns: [{ field: id }] }), [without(section)]).columns;
          expect([id, column?.why]).toEqual([id, 'hidden']);
        }
    }
  });

  test('what is worked out of a field that may be hidden says so: it is gone with the field', () => {
    const missed: string[] = [];
    const seen = new Set<string>();
    for (const seed of [3, 5, 7]) {
      const { history } = randomHistory(seed, 300);
      const change = {
        recorded: history.entries.flatMap((entry) => entry.change.recorded),
        superseded: history.entries.flatMap((entry) => entry.change.superseded),
      };
      const gone = new Set(change.superseded.map(({ id }) => id));
      const rows = change.recorded.filter(({ id }) => !gone.has(id));
      const readAll = (all: typeof rows): Map<string, string> => {
        const columns = new Columns();
        columns.apply({ recorded: all, superseded: [] });
        const facts = new Facts(columns);
        const sight = new Sight(facts, { grants: [ALL], personId: null } as never, on);
        const found = new Map<string, string>();
        for (const subject of ['person_name', 'position', 'unit'] as const) {
          const labels = { labelOf: (_: unknown, id: number) => String(id), codeOf: () => null };
          const fields = fieldsOfSubject(preset, subject).filter(({ isWorkedOut }) => isWorkedOut);
          const view = viewOf({ subject, columns: fields.map(({ id }) => ({ field: id })) });
          const run = evaluateView(facts, sight, { view, on: LATER, today: on, labels });
          const cells = [...run.slots].map((_, row) => {
            run.goTo(row);
            return run.columns.map(({ field }) => JSON.stringify(field?.read(run.cursor) ?? null, plain));
          });
          fields.forEach(({ id }, i) => found.set(`${subject} ${id}`, cells.map((row) => row[i]).join()));
        }
        return found;
      };
      const before = readAll(rows);
      for (const { name, nulls } of preset.sections)
        for (const field of Object.keys(nulls)) {
          const isSaid = (row: (typeof rows)[number]) =>
            row.section === name && (row.values as Record<string, unknown>)[field] !== null;
          if (!rows.some(isSaid) || isNeeded(preset.section(name as SectionName), field)) continue;
          const blank = rows.map((row) =>
            isSaid(row) ? { ...row, values: { ...row.values, [field]: null } } : row,
          );
          const after = readAll(blank as typeof rows);
          for (const subject of ['person_name', 'position', 'unit'] as const)
            for (const { id, reads = [] } of fieldsOfSubject(preset, subject)) {
              if (before.get(`${subject} ${id}`) === after.get(`${subject} ${id}`)) continue;
              seen.add(`${name}.${field}`);
              if (!reads.includes(`${name}.${field}`)) missed.push(`${id} of ${name}.${field}`);
            }
        }
    }
    expect(seen.size).toBeGreaterThan(5);
    expect([...new Set(missed)]).toEqual([]);
  });
});
