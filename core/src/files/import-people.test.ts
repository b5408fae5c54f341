// Files of people over the demo's register: what is there already is the same, one cell is one change, faults are refused.
import { beforeAll, describe, expect, test } from '@jest/globals';
import { type Day, type Grant, type ImportField, type Row, presets } from '@gremium/contract';
import { makeHistory } from '../../../demo/make';
import { mainEmployment, placementOf, primaryPlacement, spellsOf } from '../people/employments';
import { managerOf } from '../structure/manager';
import { inherited, unitChain } from '../structure/tree';
import { OPEN, addDays, day } from '../time/calendar';
import type { RowRegister } from '../time/register';
import {
  type Imported,
  type Planned,
  areRowsApart,
  imported as importedOf,
  planRows,
  wholeFile,
} from './import-people';
import type { Cells } from './read-row';

const TODAY = day('2026-11-23');
let register: RowRegister;
let nextId: () => number;
beforeAll(() => {
  const history = makeHistory(TODAY);
  register = history.register as RowRegister;
  nextId = history.newId;
});

type Options = {
  grants?: Grant[];
  newNumbers?: boolean;
  sees?: (section: string, thing: number) => boolean;
  /** How many rows are planned at once. */
  portion?: number;
};

/** Plans a file over the register and takes the change out again. */
const imported = (
  files: readonly Cells[],
  {
    grants = presets.administrator(),
    newNumbers = false,
    sees = () => true,
    portion = files.length,
  }: Options = {},
): Imported => {
  const rows = files.map((cells, i) => ({ row: i + 2, cells: { ...cells } }));
  const importing = {
    register,
    newId: nextId,
    entry: nextId(),
    today: TODAY,
    day: TODAY,
    newNumbers,
    nextNumber: () => String(nextId()),
    grants,
    sees,
    ownPerson: null,
  };
  const file = wholeFile(rows, { workbook: false, today: '2026-11-23' as Day });
  const planned: Planned[] = [];
  while (rows.length > 0) {
    const plan = planRows(rows.splice(0, portion), importing, file);
    let step = plan.next();
    while (!step.done) step = plan.next();
    planned.push(...step.value);
    register.revert(importedOf(step.value).change);
  }
  return importedOf(planned);
};

const said = ({ results }: Imported) =>
  results.map(({ row, status, faults }) =>
    [row, status, ...faults.map(({ field, problem }) => `${field} ${problem.code}`)].join(' '),
  );

const codeOf = (
  section: 'unit' | 'job' | 'location' | 'legal_entity' | 'list_entry',
  thing: number | null,
) => (thing === null ? '' : (register.at(section, thing, TODAY)?.code ?? ''));

/** All that a file of people can say of somebody today, as the register has it. */
const cellsOf = (person: number): Cells | null => {
  const values = register.at('person', person, TODAY);
  const name = register.at('person_name', person, TODAY);
  const spell = mainEmployment(spellsOf(register, person), TODAY);
  const placement = spell && primaryPlacement(register, spell.id, TODAY);
  const position = placement && register.at('position', placement.values.positionId, TODAY);
  if (!values || !name || !spell || !placement || !position) return null;
  const employment = (spell.rows[0] as Row<'employment'>).values;
  const of = (section: 'contract' | 'pay') =>
    register
      .referrers(section, 'employmentId', spell.id)
      .filter(({ from, until }) => from <= TODAY && TODAY < until);
  const [contract] = of('contract') as Row<'contract'>[];
  const [pay] = of('pay') as Row<'pay'>[];
  const contacts = register.referrers('contact', 'personId', person);
  const manager = managerOf(register, person, TODAY);
  const cells: Record<string, string | null | undefined> = {
    number: values.number,
    given: name.given,
    family: name.family,
    birthDate: values.birthDate,
    gender: values.gender,
    nationality: values.nationality,
    email: contacts.find((row) => row.values.kind === 'email')?.values.value,
    phone: contacts.find((row) => row.values.kind === 'phone')?.values.value,
    firstDay: spell.from,
    lastDay: spell.until === OPEN ? null : addDays(spell.until, -1),
    seniorityDate: employment.seniorityDate,
    workerType: codeOf('list_entry', employment.workerTypeId),
    legalEntity: codeOf('legal_entity', employment.legalEntityId),
    position: position.code,
    unit: codeOf('unit', position.unitId),
    job: codeOf('job', position.jobId),
    location: codeOf('location', inherited(register, position, 'locationId', TODAY).value),
    hours: String(placement.values.hours / 100),
    manager: manager && (register.at('person', manager.personId, TODAY)?.number ?? null),
    contract: contract && codeOf('list_entry', contract.values.kindId),
    fixedUntil: contract?.values.fixedUntil,
    payKind: pay && codeOf('list_entry', pay.values.kindId),
    pay: pay?.values.amount,
    currency: pay?.values.currency,
    basis: pay?.values.basis,
  };
  return Object.fromEntries(Object.entries(cells).filter(([, text]) => text)) as Cells;
};

const everybody = (): Cells[] => [...register.things('person')].flatMap((person) => cellsOf(person) ?? []);

/** People at work in an ordinary place of their own, for examples. */
const ordinary = (): Cells[] =>
  everybody().filter(
    ({ number, lastDay }) =>
      !lastDay &&
      (register.rows('person_name', personOf(number)).length ?? 0) === 1 &&
      spellsOf(register, personOf(number)).length === 1 &&
      register.referrers('placement', 'employmentId', spellsOf(register, personOf(number))[0]?.id ?? 0)
        .length === 1,
  );

const personOf = (number: string | undefined): number =>
  [...register.all('person')].find(({ values }) => values.number === number)?.thing ?? 0;

/** Positions in force that nobody holds from today on, in one legal entity. */
const freePositions = (entity: string): string[] =>
  [...register.allOn('position', TODAY)]
    .filter(
      ({ thing, values }) =>
        values.standing === 'in_force' &&
        register.referrers('placement', 'positionId', thing, { from: TODAY, until: OPEN }).length === 0 &&
        register.rows('position', thing).every((row) => row.until === OPEN) &&
        codeOf('legal_entity', inherited(register, values, 'legalEntityId', TODAY).value) === entity,
    )
    .map(({ values }) => values.code);

const changed = ({ change }: Imported): string[] =>
  [...new Set(change.recorded.map(({ section }) => section))].sort();

const newcomer = (i: number, more: Cells): Cells => ({
  given: 'Nova',
  family: `Newcomer ${i}`,
  email: `nova${i}@file.example`,
  firstDay: '2027-02-01',
  ...more,
});

describe('a file of all that the register says of everybody', () => {
  test('is the same in every row and writes nothing', () => {
    const rows = everybody();
    expect(rows.length).toBeGreaterThan(1000);
    const found = imported(rows);
    expect(said(found).filter((line) => !line.endsWith(' same'))).toEqual([]);
    expect(found.change).toEqual({ recorded: [], superseded: [] });
  });

  test('with one cell changed has one change, in that section alone', () => {
    const cases: [ImportField, string, string[]][] = [
      ['family', 'Otherwise', ['person_name']],
      ['birthDate', '1981-07-06', ['person']],
      ['phone', '+358 9 000000', ['contact']],
      ['hours', '20', ['placement']],
      ['pay', '2999.99', ['pay']],
      ['contract', 'FIX', ['contract']],
    ];
    const people = ordinary().filter(
      ({ contract, pay, phone, birthDate }) => contract === 'PERM' && pay && phone && birthDate,
    );
    cases.forEach(([field, text, sections], i) => {
      const rows = people.slice(0, 20);
      rows[i] = { ...rows[i], [field]: text };
      const found = imported(rows);
      expect([
        field,
        found.results.map(({ status }) => status).filter((status) => status !== 'same'),
      ]).toEqual([field, ['changed']]);
      expect([field, changed(found)]).toEqual([field, sections]);
    });
  });
});

describe('rows that cannot touch each other', () => {
  test('say and write the same planned in portions as all at once, twins far apart included', () => {
    const people = ordinary().filter(({ pay, email }) => pay && email) as Required<Cells>[];
    const rows: Cells[] = people.slice(0, 40).map(({ number }, i) => ({
      number,
      pay: String(2000 + i),
      from: '2027-01-01',
      ...(i % 3 ? {} : { family: `Renamed ${i}` }),
      ...(i % 11 ? {} : { phone: '(clear)' }),
    }));
    const [first, second, third] = people as [Required<Cells>, Required<Cells>, Required<Cells>];
    rows[17] = { number: third.number, pay: 'much' };
    rows.push(
      { number: first.number, pay: '1999' },
      { email: second.email, pay: '1998' },
      { number: first.number },
    );
    const whole = imported(rows);
    const lines = said(whole);
    expect(lines[0]).toBe('2 refused number person_twice');
    expect(whole.results[0]?.faults[0]?.problem.params).toEqual({ rows: '42, 44' });
    expect([lines[1], lines[2]]).toEqual(['3 refused number person_twice', '4 refused number person_twice']);
    expect(lines[17]).toBe('19 refused pay number_unread number person_twice');
    expect(lines.filter((line) => line.includes(' changed'))).toHaveLength(36);
    const written = ({ change }: Imported) =>
      [...change.recorded, ...change.superseded]
        .map(({ section, thing, from, until, values }) =>
          JSON.stringify([section, thing, from, until, values]),
        )
        .sort();
    for (const portion of [1, 7]) {
      const parts = imported(rows, { portion });
      expect(parts.results).toEqual(whole.results);
      expect(written(parts)).toEqual(written(whole));
    }
  });

  test('are told by the columns of the file', () => {
    expect(areRowsApart(['number', 'pay', 'currency', 'from'])).toBe(true);
    for (const field of ['firstDay', 'position', 'unit', 'hours', 'manager', 'lastDay'] as const)
      expect(areRowsApart(['number', 'pay', field])).toBe(false);
  });
});

describe('blank, and (clear)', () => {
  test('a blank leaves the value as it is, (clear) empties it from the day on', () => {
    const [someone] = ordinary().filter(({ phone }) => phone);
    const number = someone?.number as string;
    expect(said(imported([{ number }]))).toEqual(['2 same']);
    const found = imported([{ number, phone: '(clear)' }]);
    expect(found.results[0]?.status).toBe('changed');
    expect(found.change.superseded.map(({ section }) => section)).toEqual(['contact']);
    expect(found.change.recorded.every(({ until }) => until === TODAY)).toBe(true);
  });

  test('what somebody must have is not emptied', () => {
    const number = ordinary()[0]?.number as string;
    expect(said(imported([{ number, firstDay: '(clear)', position: '(Clear)' }]))).toEqual([
      '2 refused firstDay clear_refused position clear_refused',
    ]);
  });
});

describe('who a row is about', () => {
  test('the number, else the email; nobody by name alone', () => {
    const [someone, other] = ordinary().filter(({ email }) => email);
    const { number, email, given, family } = someone as Required<Cells>;
    const found = imported([{ email: email.toUpperCase() }]);
    expect([found.results[0]?.status, found.results[0]?.personId]).toEqual(['same', personOf(number)]);
    expect(said(imported([{ number, email: other?.email as string }]))).toEqual([
      '2 refused email email_shared',
    ]);
    expect(said(imported([{ number: '0000', given, family }]))).toEqual(['2 refused number person_unknown']);
    expect(imported([{ number: '0000', given, family }]).results[0]?.faults[0]?.offers).toContain(number);
    expect(said(imported([{ number, name: 'Somebody Else' }]))).toEqual(['2 refused name name_differs']);
    expect(said(imported([{ number, name: `${given} ${family}`.toLowerCase() }]))).toEqual(['2 same']);
  });

  test('the same name and birth date without a key is probably the same person, offered by number', () => {
    const { number, given, family, birthDate } = ordinary()[0] as Required<Cells>;
    const [place] = freePositions('V-FI');
    const row = newcomer(1, { given, family, birthDate, position: place as string });
    const found = imported([row]);
    expect(said(found)).toEqual(['2 refused number person_alike']);
    expect(found.results[0]?.faults[0]?.offers).toEqual([number]);
  });

  test('numbers that nobody has are new people’s where that is said', () => {
    const [place] = freePositions('V-FI');
    const row = newcomer(1, { number: 'X-1', position: place as string });
    expect(said(imported([row]))).toEqual(['2 refused number person_unknown']);
    const { change } = imported([row], { newNumbers: true });
    expect(change.recorded.filter(({ section }) => section === 'person')).toMatchObject([
      { values: { number: 'X-1' } },
    ]);
  });
});

describe('places and managers', () => {
  test('of two rows for one place the last is refused; free for the first', () => {
    const [place] = freePositions('V-FI') as [string];
    const rows = [newcomer(1, { position: place }), newcomer(2, { position: place })];
    expect(said(imported(rows))).toEqual(['2 new', '3 refused position place_taken']);
  });

  test('two people swap their places in one file, in any order of rows', () => {
    const people = ordinary().filter(({ legalEntity, hours }) => legalEntity === 'V-FI' && hours === '37.5');
    const [a] = people as [Required<Cells>];
    const b = people.find(
      ({ position, job, unit }) => position !== a.position && job === a.job && unit !== a.unit,
    ) as Required<Cells>;
    const rows = [
      { number: a.number, from: '2027-03-01', position: b.position },
      { number: b.number, from: '2027-03-01', position: a.position },
    ];
    expect(said(imported(rows))).toEqual(['2 changed', '3 changed']);
    expect(said(imported([rows[0] as Cells]))[0]).toBe('2 refused position place_taken');
  });

  test('a position’s unit in the file must be the position’s own; its code is offered', () => {
    const [place] = freePositions('V-FI') as [string];
    const found = imported([newcomer(1, { position: place, unit: 'Finance' })]);
    expect(said(found)).toEqual(['2 refused unit place_differs']);
    const own = [...register.allOn('position', TODAY)].find(({ values }) => values.code === place);
    expect(found.results[0]?.faults[0]?.offers).toEqual([codeOf('unit', own?.values.unitId ?? 0)]);
  });

  test('where hires need a position a job is not enough; where not, the position is made', () => {
    const needs = newcomer(1, { unit: 'Finance', job: 'SPEC' });
    const free = newcomer(2, { unit: 'Cabins, Vess Tiira', job: 'Cabin Attendant', workerType: 'Employee' });
    const found = imported([needs, free]);
    expect(said(found)).toEqual(['2 refused position hires_need_position', '3 new']);
    expect(changed(found)).toContain('position');
  });

  test('a manager may stand in a later row; one whose row is refused refuses those below', () => {
    const [p, q] = freePositions('V-FI') as [string, string];
    const lead = newcomer(2, { position: q });
    const crew = newcomer(1, { position: p, manager: 'Nova Newcomer 2' });
    const found = imported([crew, lead]);
    expect(said(found)).toEqual(['2 new', '3 new']);
    register.apply(found.change);
    const [person, boss] = found.results.map(({ personId }) => personId as number) as [number, number];
    expect(managerOf(register, person, day('2027-02-01'))?.personId).toBe(boss);
    expect(placementOf(register, boss, day('2027-02-01'))).toBeDefined();
    register.revert(found.change);
    expect(said(imported([crew, { ...lead, firstDay: '31.02.2027' }]))).toEqual([
      '2 refused manager manager_refused',
      '3 refused firstDay day_unreal',
    ]);
  });

  test('a ring of managers refuses all of its rows, and nothing else', () => {
    const [p, q, r] = freePositions('V-FI') as [string, string, string];
    const rows = [
      newcomer(1, { position: p, manager: 'nova2@file.example' }),
      newcomer(2, { position: q, manager: 'nova3@file.example' }),
      newcomer(3, { position: r, manager: 'nova1@file.example' }),
      newcomer(4, { unit: 'Cabins, Vess Tiira', job: 'CABIN', workerType: 'EMP' }),
    ];
    expect(said(imported(rows))).toEqual([
      '2 refused manager manager_ring',
      '3 refused manager manager_ring',
      '4 refused manager manager_ring',
      '5 new',
    ]);
  });
});

describe('somebody limited to a part', () => {
  test('finds no unit outside, writes nobody outside, and is told nothing of who is there', () => {
    const fleet =
      [...register.allOn('unit', TODAY)].find(({ values }) => values.name === 'Fleet')?.thing ?? 0;
    const outside = ordinary().find(({ unit }) => unit?.startsWith('U-') && unitName(unit) === 'Finance');
    const sees = (section: string, thing: number) =>
      section !== 'person_name' || thing !== personOf(outside?.number);
    const grants = presets.specialist(fleet);
    expect(said(imported([{ number: outside?.number as string, phone: '12345' }], { grants, sees }))).toEqual(
      ['2 refused number person_unknown'],
    );
    const [office] = [...register.allOn('unit', TODAY)].filter(({ values }) => values.name === 'Shops North');
    const row = newcomer(1, { unit: office?.values.code as string, job: 'SHOP', workerType: 'EMP' });
    expect(said(imported([row], { grants }))).toEqual(['2 refused null right_missing']);
    // nor does naming a manager write a position outside
    const outsiders = ordinary().filter(({ unit }) => {
      const [own] = [...register.allOn('unit', TODAY)].filter(({ values }) => values.code === unit);
      return own && !unitChain(register, own.thing, TODAY).includes(fleet);
    });
    const [someone, other] = [
      outsiders[0],
      outsiders.find(({ position }) => position !== outsiders[0]?.position),
    ];
    const led = { number: someone?.number as string, manager: other?.number as string };
    expect(said(imported([led]))).toEqual(['2 changed']);
    expect(said(imported([led], { grants }))).toEqual(['2 refused null right_missing']);
  });
});

const unitName = (code: string): string =>
  [...register.allOn('unit', TODAY)].find(({ values }) => values.code === code)?.values.name ?? '';
