// Files about plain subjects, worked by hand: keys, days, two passes, refusals that leave the rest.
import { beforeEach, describe, expect, test } from '@jest/globals';
import { type Grant, type SectionName, plainColumns, preset } from '@gremium/contract';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import { day } from '../time/calendar';
import { RowRegister, everyRow } from '../time/register';
import { planPlain } from './import-plain';

const ALL: Grant = {
  acts: [],
  scope: { type: 'all' },
  sections: Object.fromEntries(preset.names.map((name) => [name, 'edit'])) as Grant['sections'],
};
const DAY = day('2024-06-01');

let world: SmallWorld;
let ids: number;
beforeEach(() => {
  world = smallWorld();
  ids = 90_000;
});

const takeIn = (
  section: SectionName,
  rows: Record<string, string>[],
  more: { grants?: Grant[]; workbook?: boolean; later?: ReadonlySet<string> } = {},
) => {
  const declared = preset.section(section);
  const plan = planPlain(
    rows.map((cells, i) => ({ row: i + 2, cells })),
    {
      register: world.register,
      newId: () => ids++,
      entry: 2,
      today: DAY,
      day: DAY,
      grants: more.grants ?? [ALL],
      sees: () => true,
      ownPerson: null,
      section: declared,
      columns: plainColumns(declared),
      wordsOf: (option) => (option === 'month' ? ['Monat'] : []),
      workbook: more.workbook ?? false,
      later: more.later,
    },
  );
  for (;;) {
    const step = plan.next();
    if (step.done) return step.value;
  }
};
const said = ({ results }: ReturnType<typeof takeIn>) =>
  results.map(({ status, faults }) => [
    status,
    ...faults.map(({ field, problem }) => `${field} ${problem.code}`),
  ]);

describe('units', () => {
  test('in any order of rows: a child before its parent, its head later; by code; the same again is same', () => {
    const rows = [
      { code: 'GATE', name: 'Gate', kindId: 'TEAM', parentId: 'QUAY' },
      { code: 'QUAY', name: 'Quay', kindId: 'team', parentId: 'Harbour' },
      { code: 'Harbour', name: 'Häfen' },
    ];
    const first = takeIn('unit', rows);
    expect(said(first)).toEqual([['new'], ['new'], ['changed']]);
    const [gate] = world.register.valued('unit', 'code', 'GATE');
    const [quay] = world.register.valued('unit', 'code', 'QUAY');
    expect(gate?.values.parentId).toBe(quay?.thing);
    expect(gate).toMatchObject({ from: DAY, until: 'infinity' });
    expect(quay?.values.parentId).toBe(world.units.harbour);
    expect(world.register.at('unit', world.units.harbour, day('2024-05-31'))?.name).toBe('Harbour');
    const again = takeIn('unit', rows);
    expect(said(again)).toEqual([['same'], ['same'], ['same']]);
    expect(again.change).toEqual({ recorded: [], superseded: [] });
  });

  test('a ring is refused, the row beside it is written; the register holds nothing of the refused', () => {
    const found = takeIn('unit', [
      { code: 'Company', parentId: 'Terminal' },
      { code: 'Harbour', name: 'Port' },
      { code: 'NEW', name: 'New', kindId: 'TEAM', parentId: 'NOWHERE' },
    ]);
    expect(said(found)[0]?.[0]).toBe('refused');
    expect(said(found)[1]).toEqual(['changed']);
    expect(said(found)[2]).toEqual(['refused', 'parentId value_unknown']);
    expect(world.register.at('unit', world.units.company, DAY)?.parentId).toBeNull();
    expect(world.register.valued('unit', 'code', 'NEW')).toEqual([]);
  });

  test('blank leaves, (clear) empties where it may be empty, and is refused where not', () => {
    const found = takeIn('unit', [{ code: 'Company', legalEntityId: '(clear)' }]);
    expect(said(found)).toEqual([['changed']]);
    expect(world.register.at('unit', world.units.company, DAY)).toMatchObject({
      legalEntityId: null,
      name: 'Company',
    });
    expect(said(takeIn('unit', [{ code: 'Harbour', name: '(clear)' }]))).toEqual([
      ['refused', 'name clear_refused'],
    ]);
  });

  test('by our id, which wins over the code; an id of nothing is refused', () => {
    const id = String(world.units.terminal);
    expect(said(takeIn('unit', [{ id, code: 'TERM' }]))).toEqual([['changed']]);
    expect(world.register.at('unit', world.units.terminal, DAY)?.code).toBe('TERM');
    expect(said(takeIn('unit', [{ id: '4711', name: 'x' }]))).toEqual([['refused', 'id row_unknown']]);
    expect(said(takeIn('unit', [{ id: String(world.job), name: 'x' }]))).toEqual([
      ['refused', 'id row_unknown'],
    ]);
  });
});

describe('pay of one person, rows in any order', () => {
  const row = (from: string, amount: string) => ({
    employmentId: '0986',
    from,
    kindId: 'BASE',
    amount,
    currency: 'eur',
    basis: 'Monat',
    rate: 'actual',
  });
  const hired = () => {
    const { position, units } = world;
    return world.hired('0986', position(units.terminal, 'X'), '2024-01-01');
  };

  test('two of one day are both refused, each naming the other; what begins before runs on', () => {
    const { employmentId } = hired();
    const found = takeIn('pay', [
      row('1.1.2024', '3.000,00'),
      row('1.3.2024', '3.100,00'),
      row('1.2.2024', '3.200,00'),
      row('2024-03-01', '3.150,00'),
    ]);
    expect(said(found)).toEqual([
      ['new'],
      ['refused', 'from thing_twice'],
      ['changed'],
      ['refused', 'from thing_twice'],
    ]);
    expect(found.results[1]?.faults[0]?.problem.params).toEqual({ rows: 5 });
    const rows = world.register.referrers('pay', 'employmentId', employmentId);
    expect(rows.map(({ from, until, values }) => [from, until, values.amount]).sort()).toEqual([
      ['2024-01-01', '2024-02-01', '3000'],
      ['2024-02-01', 'infinity', '3200'],
    ]);
  });

  test('a number without its zeros is offered; of two alike both are named', () => {
    hired();
    const found = takeIn('pay', [{ ...row('2024-03-01', '3000'), employmentId: '986' }]);
    expect(said(found)).toEqual([['refused', 'employmentId value_unknown']]);
    expect(found.results[0]?.faults[0]?.offers).toEqual(['0986']);
    world.hired('986', world.position(world.units.harbour, 'Y'), '2024-01-01');
    const both = takeIn('pay', [{ ...row('2024-03-01', '3000'), employmentId: '986' }]);
    expect(said(both)).toEqual([['refused', 'employmentId value_ambiguous']]);
    expect([...(both.results[0]?.faults[0]?.offers ?? [])].sort()).toEqual(['0986', '986']);
  });

  test('who may not write pay is refused, row by row', () => {
    hired();
    const grants: Grant[] = [{ ...ALL, sections: { ...ALL.sections, pay: 'view' } }];
    expect(said(takeIn('pay', [row('2024-03-01', '3000')], { grants }))).toEqual([
      ['refused', 'null right_missing'],
    ]);
  });
});

describe('other subjects', () => {
  test('entries of lists by list and code, with words in both languages; what must be said is named', () => {
    const rows = [
      { list: 'reason', code: 'MOVE', 'label.en': 'Move', 'label.de': 'Umzug' },
      { list: 'unit_kind', code: 'TEAM', 'label.de': 'Mannschaft' },
      { list: 'reason', code: 'HALF', 'label.en': 'Half' },
      { list: 'nonsense', code: 'A', 'label.en': 'A', 'label.de': 'A' },
    ];
    const found = takeIn('list_entry', rows);
    expect(said(found)).toEqual([
      ['new'],
      ['changed'],
      ['refused', 'label.en value_invalid'],
      ['refused', 'list value_unknown'],
    ]);
    expect(world.register.at('list_entry', world.lists.TEAM, DAY)?.label).toEqual({
      en: 'TEAM',
      de: 'Mannschaft',
    });
  });

  test('what stands beside another section is known by whose it is; days, numbers and yes as people write them', () => {
    const id = world.position(world.units.terminal, 'X');
    const found = takeIn('position_limits', [{ of: 'X', places: '4', fte: '2,8' }]);
    expect(said(found)).toEqual([['changed']]);
    expect(world.register.at('position_limits', id, DAY)).toMatchObject({ places: 4, fte: 280 });
    expect(world.register.at('position_limits', id, START)).toMatchObject({ places: 1 });
    const put = takeIn('position', [
      { code: 'X', temporary: 'ja', seasonFirst: '1. März 2025', budget: '26.400,5' },
    ]);
    expect(said(put)).toEqual([['changed']]);
    expect(world.register.at('position', id, DAY)).toMatchObject({
      temporary: true,
      seasonFirst: '2025-03-01',
      budget: '26400.5',
    });
  });

  test('from the beginning', () => {
    const found = takeIn('legal_entity', [
      { from: '(beginning)', code: 'NO', name: 'Norge', country: 'Norwegen', currency: 'NOK' },
    ]);
    expect(said(found)).toEqual([['new']]);
    expect(world.register.valued('legal_entity', 'code', 'NO')[0]).toMatchObject({
      from: '-infinity',
      values: { country: 'NO' },
    });
  });

  test('rows that are refused leave the register as it was, and the change is just what is written', () => {
    const before = [...everyRow(world.register)].length;
    const found = takeIn('unit', [{ code: 'Q', name: 'Q', kindId: 'WRONG' }]);
    expect(found.change).toEqual({ recorded: [], superseded: [] });
    expect([...everyRow(world.register)]).toHaveLength(before);
    expect(new RowRegister(everyRow(world.register))).toBeDefined();
  });
});

describe('files among others', () => {
  test('a head that a later file brings is set in a second plan; without one it is refused at once', () => {
    const rows = [{ code: 'NEW', name: 'New', kindId: 'TEAM', parentId: 'Harbour', headPositionId: 'P-9' }];
    expect(said(takeIn('unit', rows))).toEqual([['refused', 'headPositionId value_unknown']]);
    const waiting = takeIn('unit', rows, { later: new Set(['position']) });
    expect(said(waiting)).toEqual([['new']]);
    const [more] = waiting.later;
    expect(more?.cells).toMatchObject({ from: DAY, headPositionId: 'P-9' });
    // where it still is not there, the second plan refuses the row
    expect(said(takeIn('unit', [{ ...more!.cells }]))).toEqual([['refused', 'headPositionId value_unknown']]);
  });
});
