// What is declared wrongly is said at start or by the type check; what is left out is never silently nothing.
import { describe, expect, test } from '@jest/globals';
import {
  Catalogue,
  type FieldMeta,
  type Kind,
  type Labels,
  type Row,
  type Section,
  Text,
  choice,
  day,
  fieldLabel,
  list,
  metaOf,
  ownFieldName,
  ownSections,
  preset,
  presetSections,
  quiet,
  refTo,
  section,
  text,
  type MovementKind,
  keptIn,
  saidPaths,
} from '@gremium/contract';
import { labels as de } from '@gremium/contract/labels/de';
import { labels as en } from '@gremium/contract/labels/en';
import { z } from 'zod';
import { laws } from './laws';
import { RowRegister } from './time/register';
import { definedField, definedSection } from '../test/own-definitions';

const made = (name: string, fields: z.ZodObject, traits = {}): Section =>
  section(name, name as Kind, fields, traits) as unknown as Section;
const with_ = (...more: Section[]) => new Catalogue([...presetSections, ...more]);

describe('a field', () => {
  test('has what it is for itself, though its schema is shared, and through what it is wrapped in', () => {
    const [one, two] = [list('reason'), list('worker_type')];
    expect([metaOf('a', one), metaOf('b', two)]).toEqual([
      { is: 'list', list: 'reason' },
      { is: 'list', list: 'worker_type' },
    ]);
    expect(metaOf('c', list('reason').nullable())).toEqual({ is: 'list', list: 'reason' });
    expect(metaOf('d', text().nullable().optional())).toEqual({ is: 'text' });
    expect(metaOf('e', quiet(day().nullable()))).toEqual({ is: 'day', quiet: true });
    // the shared schema itself says nothing
    expect(() => metaOf('f', Text)).toThrow('field f is not declared (string)');
  });

  test('that is not declared, or in a wrapper that nobody knows, stops the start by its name', () => {
    expect(() => made('bad', z.strictObject({ plain: z.string() }))).toThrow(
      'field bad.plain is not declared (string)',
    );
    expect(() => made('bad', z.strictObject({ lazy: z.lazy(() => text()) }))).toThrow(
      'field bad.lazy is not declared (lazy)',
    );
    expect(() => made('bad', z.strictObject({ preset: text().default('x') }))).toThrow(
      'field bad.preset is not declared (default)',
    );
    expect(() => made('bad', z.strictObject({ maybe: text().optional() }))).toThrow(
      'field bad.maybe has a default or may be left out',
    );
  });
});

describe('a section', () => {
  const fields = z.strictObject({ personId: refTo('person'), from: day(), note: text().nullable() });
  const good = made('good', fields, { owner: 'personId' });

  test('takes a new version with what may be empty left out, and of a change only what is named', () => {
    expect(good.create.parse({ personId: 1, from: '2027-01-01' })).toEqual({
      personId: 1,
      from: '2027-01-01',
      note: null,
    });
    expect(good.create.safeParse({ personId: 1 }).success).toBe(false);
    expect(good.edit.parse({ from: '2027-01-02' })).toEqual({ from: '2027-01-02' });
    expect(good.edit.safeParse({ other: 1 }).success).toBe(false);
  });

  test('that does not hold together stops the start', () => {
    expect(() => made('bad', fields, { owner: 'from' })).toThrow(
      'section bad: its owner from names no other thing',
    );
    expect(() => made('bad', fields, { owner: 'nothing' })).toThrow('names no other thing');
    expect(() => with_(made('bad', fields))).toThrow('section bad: it is not said who sees it');
    const nowhere = z.strictObject({ ship: refTo('ship' as Kind) });
    expect(() => with_(made('bad', nowhere, { scope: 'everybody' }))).toThrow(
      'field bad.ship names a ship, of which there is none',
    );
    expect(() => with_(made('bad', nowhere, { owner: 'ship', scope: 'own_days' }))).toThrow(
      'of which there is none',
    );
    const beside = section('bad', 'ship' as Kind, z.strictObject({ note: text() })) as unknown as Section;
    expect(() => with_(beside)).toThrow('section bad: its kind ship has no base section');
    expect(() => with_(good, good)).toThrow('two sections of one name');
    const ring = made('ring', z.strictObject({ ringId: refTo('ring' as Kind) }), { owner: 'ringId' });
    expect(() => with_(ring)).toThrow('section ring is owned by itself');
  });

  test('is seen as its owner is, unless it says otherwise', () => {
    const own = made('own', fields, { owner: 'personId', scope: 'own_days' });
    const catalogue = with_(good, own);
    expect(
      ['good', 'own', 'contact', 'pay', 'unit_hiring', 'grade_range'].map((name) =>
        catalogue.scope(name as never),
      ),
    ).toEqual(['owner_now', 'own_days', 'owner_now', 'own_days', 'own_days', 'everybody']);
    expect(() => catalogue.section('gone')).toThrow('section_unknown: gone');
    expect(() => catalogue.of('gone' as Kind)).toThrow('kind_unknown: gone');
  });
});

describe('labels', () => {
  const languages: [string, Labels][] = [
    ['en', en],
    ['de', de],
  ];

  test.each(languages)('name every section, kind, field and option (%s)', (_, labels) => {
    for (const { name, kind, metas } of presetSections) {
      expect([name, labels.section[name as 'pay'], labels.kind[kind]].every(Boolean)).toBe(true);
      for (const [fieldName, meta] of metas) {
        expect([name, fieldName, Boolean(fieldLabel(labels, name, fieldName))]).toEqual([
          name,
          fieldName,
          true,
        ]);
        if (meta.is !== 'choice') continue;
        // patterns of days say themselves what they are
        for (const option of meta.options.filter((one) => /^\w+$/.test(one)))
          expect([fieldName, option, Boolean((labels.choice as Record<string, string>)[option])]).toEqual([
            fieldName,
            option,
            true,
          ]);
      }
    }
  });

  test('left out fail the type check', () => {
    const { birthDate: _, ...fields } = en.field;
    // @ts-expect-error a field without a label
    const lacking: Labels = { ...en, field: fields };
    // @ts-expect-error a label of a field that there is not
    const strange: Labels['fieldOf'] = { person: { shoeSize: 'Shoes' } };
    // @ts-expect-error a list that there is not
    const other = list('colours');
    // @ts-expect-error a kind that there is not
    const nobody = refTo('ship');
    expect([lacking, strange, other, nobody]).toHaveLength(4);
  });
});

describe('laws that every declared field has', () => {
  const fields = z.strictObject({
    personId: refTo('person'),
    reasonId: list('reason').nullable(),
    kind: choice('a', 'b'),
  });
  const catalogue = with_(made('one', fields, { owner: 'personId', several: false }));
  const [PERSON, OTHER, REASON, TYPE] = [1, 2, 3, 4];
  let ids = 100;
  const row = (name: string, thing: number, [from, until]: [string, string], values: object): Row =>
    ({ id: ids, lineage: ids++, section: name, thing, from, until, values, entry: 1 }) as unknown as Row;
  const always: [string, string] = ['2020-01-01', 'infinity'];
  const entry = (thing: number, name: string) =>
    row('list_entry', thing, always, { list: name, code: name, label: {}, flags: {}, ownFieldId: null });
  const person = (thing: number) => row('person', thing, always, { number: String(thing) });
  const mine = (from: string, more: object = {}, thing = 10) =>
    row('one', thing, [from, 'infinity'], { personId: PERSON, reasonId: REASON, kind: 'a', ...more });

  // One row of a person with a reason stands since 2021; what else is recorded?
  const broken = (recorded: Row[], superseded: Row[] = []): string[] => {
    const stands = row('one', 10, ['2021-01-01', '2025-01-01'], {
      personId: PERSON,
      reasonId: REASON,
      kind: 'a',
    });
    const there = [
      person(PERSON),
      person(OTHER),
      entry(REASON, 'reason'),
      entry(TYPE, 'worker_type'),
      stands,
    ];
    const register = new RowRegister(there, catalogue);
    register.apply({ recorded, superseded });
    return laws(register, { recorded, superseded }).map(({ problem }) =>
      `${problem.code} ${problem.field ?? ''}`.trim(),
    );
  };

  test('an entry of another list is refused by the field, one of the list and none are not', () => {
    expect(broken([mine('2025-01-01')])).toEqual([]);
    expect(broken([mine('2025-01-01', { reasonId: null })])).toEqual([]);
    expect(broken([mine('2025-01-01', { reasonId: TYPE })])).toEqual(['list_wrong reasonId']);
    // from the day before it was there
    expect(
      broken([
        row('one', 11, ['2019-01-01', '2019-06-01'], { personId: PERSON, reasonId: REASON, kind: 'a' }),
      ]),
    ).toEqual(['reference_missing personId', 'reference_missing reasonId']);
  });

  test('whose a thing is never changes, and where there is one at a time a second is refused', () => {
    expect(broken([mine('2025-01-01', { personId: OTHER })])).toEqual(['owner_constant personId']);
    expect(broken([mine('2026-01-01', { personId: OTHER }, 11)])).toEqual([]);
    expect(broken([mine('2024-12-31', {}, 11)])).toEqual(['overlap']);
    expect(broken([mine('2025-01-01', {}, 11)])).toEqual([]);
  });
});

describe('sections of the organisation’s own', () => {
  test('are sections like the others, fields in the order of their places', () => {
    const [made_] = ownSections(
      [definedSection(7, { several: true })],
      [
        definedField(9, 7, { place: 2 }),
        definedField(8, 7, { kind: 'list', place: 3 }),
        definedField(10, 7, { place: 1 }),
      ],
    );
    expect([...made_!.metas.keys()]).toEqual(['ownerId', 'f10', 'f9', 'f8']);
    expect(made_!.metas.get(ownFieldName(8))).toEqual({
      is: 'list',
      list: 'own',
      ownField: 8,
    } satisfies FieldMeta);
    expect(preset.with([made_!], 5).number).toBe(5);
    expect(new RowRegister([], preset.with([made_!], 5)).catalogue.belongingTo('person')).toContain('own.7');
  });
});

test('what a movement says is kept in the field of a section, as its input is made of these', () => {
  const kept = (kind: MovementKind, ...paths: string[]) => paths.map((path) => keptIn(kind, path).join());
  expect(kept('hire', 'person.birthDate', 'person.name.middle', 'pay.0.step', 'seniorityDate')).toEqual([
    ...['person.birthDate', 'person_name.middle', 'pay.step', 'employment.seniorityDate'],
  ]);
  expect(kept('change_position', 'gradeId', 'places')).toEqual([
    'position.gradeId',
    'position_limits.places',
  ]);
  expect(kept('give_honour', 'notes', 'country')).toEqual(['award.notes', 'award.country']);
  expect(kept('leave', 'noticeOn', 'lastDay', 'nothing')).toEqual(['employment.noticeOn', '', '']);
  const input = {
    person: { name: { given: 'A', middle: null }, contacts: [{ kind: 'phone' }] },
    firstDay: '2026-12-01',
  };
  expect(saidPaths(input)).toEqual(['person.name.given', 'person.contacts.0.kind', 'firstDay']);
});
