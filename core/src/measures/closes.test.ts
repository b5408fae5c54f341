// Headcount at closes and the law of flows, worked by hand: continued, parallel and uncounted employments.
import { describe, expect, test } from '@jest/globals';
import type { Bound, Row, SectionName } from '@gremium/contract';
import { byDimension, flowsOf, headcountAtClose, perPerson } from '../../test/flows-by-rows';
import { type Dimension, allPresences } from '../../test/presence-by-rows';
import { day } from '../time/calendar';
import { Columns } from '../time/columns';
import { RowRegister } from '../time/register';
import { Facts } from './facts';
import { monthFlows } from './why';

const [EMPLOYEE, CONTRACTOR, NORTH, SOUTH] = [1, 2, 3, 4];

type Spell = {
  from: string;
  until?: string;
  type?: number;
  entity?: number;
  main?: boolean;
  continues?: number;
  id?: number;
};

/** Everybody's employments, each with a primary placement of its own for its whole period; `until` is the day after the last. */
const rowsOf = (people: Spell[][]): Row[] => {
  const rows: Row[] = [];
  let id = 10_000;
  const add = (section: SectionName, thing: number, values: object, from: string, until: string) =>
    rows.push({
      id: ++id,
      lineage: id,
      section,
      thing,
      from: from as Bound,
      until: until as Bound,
      values,
      entry: 1,
    } as Row);
  const always = (section: SectionName, thing: number, values: object) =>
    add(section, thing, values, '-infinity', 'infinity');
  const type = (code: string, flags: object) => ({
    list: 'worker_type',
    code,
    label: { en: code, de: code },
    order: 0,
    flags,
  });
  always('list_entry', EMPLOYEE, type('EMP', { counted: true }));
  always('list_entry', CONTRACTOR, type('CON', { counted: false }));
  people.forEach((spells, person) => {
    always('person', 100_000 + person, { number: String(person) });
    spells.forEach((spell, i) => {
      const { from, until = 'infinity', type: worker = EMPLOYEE, entity = NORTH } = spell;
      const employment = spell.id ?? 200_000 + person * 10 + i;
      const values = {
        personId: 100_000 + person,
        legalEntityId: entity,
        workerTypeId: worker,
        markedMain: spell.main ?? false,
      };
      const rest = {
        seniorityDate: null,
        continuesId: spell.continues ?? null,
        endReasonId: null,
        mayReturn: null,
      };
      add(
        'employment',
        employment,
        { ...values, ...rest, returnReason: null, returnBarredUntil: null },
        from,
        until,
      );
    });
  });
  return rows;
};

type Month = { opening: number; joiners: number; in: number; leavers: number; out: number; closing: number };

/** The months of 2027 up to June as columns count them, having been compared with rows, and the law having been asked. */
const monthsOf = (people: Spell[][], by: Dimension = 'whole'): Map<string, Month> => {
  const rows = rowsOf(people);
  const register = new RowRegister(rows);
  const facts = new Facts(new Columns());
  facts.columns.apply({ recorded: rows, superseded: [] });
  const presences = allPresences(register);
  const flows = perPerson(presences).flatMap((own) => flowsOf(register, own, byDimension(by)));
  const found = new Map<string, Month>();
  const span = { from: day('2027-01-01'), until: day('2027-07-31') };
  for (const { month, values } of monthFlows(facts, { by, ...span, part: 'all' }))
    for (const { key, ...counts } of values) {
      const end = `${month}-${['04', '06'].includes(month.slice(5)) ? '30' : month.endsWith('02') ? '28' : '31'}`;
      const of = (kind: string) =>
        flows.filter((flow) => flow.kind === kind && flow.key === key && flow.on.startsWith(month)).length;
      const { opening, joiners, in: came, leavers, out, closing } = counts;
      expect([month, key, opening + joiners + came - leavers - out]).toEqual([month, key, closing]);
      expect([month, key, closing]).toEqual([
        month,
        key,
        headcountAtClose(register, presences, day(end), byDimension(by)).get(key as number) ?? 0,
      ]);
      expect([joiners, came, leavers, out]).toEqual(['joiner', 'in', 'leaver', 'out'].map(of));
      found.set(`${month} ${key}`, counts as Month);
    }
  return found;
};

const closes = (months: Map<string, Month>, ...of: string[]) =>
  of.map((month) => months.get(`${month} 0`)?.closing ?? 0);

describe('closes and flows', () => {
  test('40 of 1,000 pass to another legal entity on 1 June: the close of 31 May is 1,000, nobody leaves or joins', () => {
    const people = Array.from({ length: 1000 }, (_, i): Spell[] =>
      i < 40
        ? [
            { from: '2025-01-01', until: '2027-06-01', id: 300_000 + i },
            { from: '2027-06-01', entity: SOUTH, continues: 300_000 + i },
          ]
        : [{ from: '2025-01-01' }],
    );
    const whole = monthsOf(people);
    expect(closes(whole, '2027-04', '2027-05', '2027-06')).toEqual([1000, 1000, 1000]);
    const entities = monthsOf(people, 'legalEntity');
    expect(entities.get(`2027-05 ${NORTH}`)).toMatchObject({ closing: 1000, leavers: 0, out: 0 });
    expect(entities.get(`2027-06 ${NORTH}`)).toMatchObject({
      opening: 1000,
      out: 40,
      leavers: 0,
      closing: 960,
    });
    expect(entities.get(`2027-06 ${SOUTH}`)).toMatchObject({ in: 40, joiners: 0, closing: 40 });
  });

  test('the main employment ends on 31 May while another runs since January: 1, 1, 1, no leaver', () => {
    const months = monthsOf([
      [
        { from: '2020-01-01', until: '2027-06-01' },
        { from: '2027-01-01', entity: SOUTH },
      ],
    ]);
    expect(closes(months, '2027-04', '2027-05', '2027-06')).toEqual([1, 1, 1]);
    expect([...months.values()].every(({ leavers, joiners }) => leavers + joiners === 0)).toBe(true);
  });

  test('a third one, marked main, begins the day after: the person stays by the one that runs on', () => {
    const months = monthsOf([
      [
        { from: '2020-01-01', until: '2027-06-01', main: true },
        { from: '2027-01-01', entity: SOUTH },
        { from: '2027-06-01', entity: NORTH, main: true },
      ],
    ]);
    expect(closes(months, '2027-05', '2027-06')).toEqual([1, 1]);
    expect([...months.values()].every(({ leavers, joiners }) => leavers + joiners === 0)).toBe(true);
  });

  test('a return on the next day is a leaver and a joiner', () => {
    const months = monthsOf([
      [
        { from: '2020-01-01', until: '2027-06-01' },
        { from: '2027-06-01', entity: SOUTH },
      ],
    ]);
    expect(closes(months, '2027-04', '2027-05', '2027-06')).toEqual([1, 0, 1]);
    expect([months.get('2027-05 0')?.leavers, months.get('2027-06 0')?.joiners]).toEqual([1, 1]);
  });

  test('one who goes on as a contractor, who does not count, has left', () => {
    const months = monthsOf([
      [
        { from: '2020-01-01', until: '2027-06-01' },
        { from: '2027-01-01', type: CONTRACTOR, entity: SOUTH },
      ],
    ]);
    expect(closes(months, '2027-04', '2027-05', '2027-06')).toEqual([1, 0, 0]);
    expect(months.get('2027-05 0')?.leavers).toBe(1);
  });

  test('a contractor since long who is employed beside it counts from the first day as employee', () => {
    const months = monthsOf([
      [
        { from: '2020-01-01', type: CONTRACTOR },
        { from: '2027-03-01', until: '2027-06-01', entity: SOUTH },
      ],
    ]);
    expect(closes(months, '2027-02', '2027-03', '2027-04', '2027-05', '2027-06')).toEqual([0, 1, 1, 0, 0]);
    expect([months.get('2027-03 0')?.joiners, months.get('2027-05 0')?.leavers]).toEqual([1, 1]);
  });

  test('taken on from an agency, as a continuation, comes into the scope by a move', () => {
    const months = monthsOf([
      [
        { from: '2026-01-01', until: '2027-04-01', type: CONTRACTOR, id: 300_001 },
        { from: '2027-04-01', until: '2027-06-01', continues: 300_001, id: 300_002 },
        { from: '2027-06-01', type: CONTRACTOR, continues: 300_002 },
      ],
    ]);
    expect(closes(months, '2027-03', '2027-04', '2027-05', '2027-06')).toEqual([0, 1, 1, 0]);
    expect(months.get('2027-04 0')).toMatchObject({ in: 1, joiners: 0 });
    expect(months.get('2027-06 0')).toMatchObject({ out: 1, leavers: 0 });
  });
});
