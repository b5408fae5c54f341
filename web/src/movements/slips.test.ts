// What every slip must hold to: fields that there are, words in both languages, nothing that is needed left out.
import { describe, expect, test } from '@jest/globals';
import { type MovementKind, fieldAt, movementKinds, movementOf, namedIn } from '@gremium/contract';
import { valueAt, withValue } from './at-path';
import type { SlipContext, SlipDeclaration } from './slip-declared';
import { readSlip, wordsIn } from './slip-reading';

const declaredOf = async (kind: string): Promise<SlipDeclaration> =>
  ((await import(`./slips/${kind}.ts`)) as { declared: SlipDeclaration }).declared;

const keysOf = (words: object): string[] =>
  Object.entries(words).flatMap(([key, value]) =>
    typeof value === 'string' ? [key] : keysOf(value as object).map((inner) => `${key}.${inner}`),
  );

const NOTHING = {
  register: { at: () => undefined, rows: () => [], allOn: () => [] },
  nameOf: () => '',
  entityOf: () => null,
};
const contextOf = (declared: SlipDeclaration, about: string, input: Record<string, unknown>): SlipContext =>
  ({
    about: { kind: about, id: 1 },
    input,
    day: '2027-01-01',
    showing: NOTHING,
    named: () => '',
    words: declared.en,
    format: { decimal: String },
    payInWords: () => '',
    rangeInWords: () => '',
    own: [],
    hidden: new Set(),
  }) as unknown as SlipContext;

describe('slips', () => {
  test.each([...movementKinds])(
    '%s: fields that exist, once each, words alike in both languages',
    async (kind) => {
      const declared = await declaredOf(kind);
      expect(keysOf(declared.de).sort()).toEqual(keysOf(declared.en).sort());
      const { input, starts, day } = movementOf(kind);
      for (const [about, start] of Object.entries(starts)) {
        const context = contextOf(declared, about, { [start.field]: 1, [day.field]: '2027-01-01' });
        const paths = [...declared.rows(context), ...(declared.more?.(context) ?? [])].flat() as string[];
        expect(new Set(paths).size).toBe(paths.length);
        for (const path of [...paths, ...Object.keys(declared.en.notes ?? {})])
          expect([path, fieldAt(input, path) !== undefined]).toEqual([path, true]);
        // whatever the schema needs is asked for, or was there from the start
        const needed = Object.keys(input.shape).filter((name) => fieldAt(input, name)?.isNeeded);
        for (const name of needed) expect([...paths, start.field]).toContain(name);
        expect(declared.title(context).length).toBeGreaterThan(0);
        expect(declared.lead(context)).not.toContain('{{');
      }
    },
  );

  test('a hire is sent with the contacts that can be read, and fixed until its last day', async () => {
    const declared = await declaredOf('hire');
    const input = {
      positionId: 1,
      firstDay: '2027-01-01',
      lastDay: '2027-06-30',
      person: { name: { given: ' Åse ' }, contacts: [{ value: 'aase@new.example' }, { value: '+1' }] },
    };
    const sent = declared.prepare?.(input, contextOf(declared, 'position', input));
    expect(sent).toMatchObject({
      person: {
        name: { given: 'Åse', family: null },
        contacts: [{ kind: 'email', value: 'aase@new.example' }],
      },
      contract: { fixedUntil: '2027-06-30' },
    });
    expect(movementOf('hire').input.safeParse(sent).success).toBe(true);
  });
});

describe('values at paths', () => {
  test('are written beside what is there, and taken away with what is then empty', () => {
    const first = withValue({}, 'person.contacts.0.value', 'a@b.example');
    expect(first).toEqual({ person: { contacts: [{ value: 'a@b.example' }] } });
    const second = withValue(first, 'person.name.given', 'Åse');
    expect(valueAt(second, 'person.contacts.0.value')).toBe('a@b.example');
    expect(withValue(second, 'person.contacts.0.value', undefined)).toEqual({
      person: { name: { given: 'Åse' } },
    });
    expect(withValue(first, 'person.contacts.0.value', undefined)).toEqual({});
    expect(first).toEqual({ person: { contacts: [{ value: 'a@b.example' }] } });
    expect(valueAt({ a: null }, 'a.b')).toBeUndefined();
    expect(withValue({ hours: 1 }, 'hours', null)).toEqual({ hours: null });
  });
});

describe('what an input names', () => {
  const { input } = movementOf('hire');

  test('is found wherever it stands, by what its fields are', () => {
    const value = {
      person: { id: 5 },
      positionId: 6,
      workerTypeId: 7,
      contract: { kindId: 8 },
      pay: [{ amount: '1', kindId: 9 }],
      reasonId: null,
    };
    expect(namedIn(input, value)).toEqual([
      { path: 'person.id', kind: 'person', id: 5 },
      { path: 'positionId', kind: 'position', id: 6 },
      { path: 'workerTypeId', kind: 'list_entry', id: 7 },
      { path: 'contract.kindId', kind: 'list_entry', id: 8 },
      { path: 'pay.0.kindId', kind: 'list_entry', id: 9 },
    ]);
    // of a draft that does not fit, what can be read
    expect(namedIn(input, { positionId: 'six', person: 3, unitId: 4, other: 1 })).toEqual([
      { path: 'unitId', kind: 'unit', id: 4 },
    ]);
  });

  test('and of a field it is known whether it must be said, and whether nothing is an answer', () => {
    const of = (path: string) => {
      const { isNeeded, isNullable } = fieldAt(input, path)!;
      return [isNeeded, isNullable];
    };
    expect(of('firstDay')).toEqual([true, false]);
    expect(of('lastDay')).toEqual([false, true]);
    expect(of('pay.0.amount')).toEqual([false, false]);
    expect(of('person.name.given')).toEqual([false, true]);
    expect(of('person.id')).toEqual([true, false]);
    expect(fieldAt(input, 'nothing.here')).toBeUndefined();
  });
});

describe('what is written in a slip', () => {
  const read = async (
    kind: MovementKind,
    input: Record<string, unknown>,
    typed: Record<string, string> = {},
  ) => {
    const declared = await declaredOf(kind);
    const movement = { key: 'k', kind, about: 'unit 1', input, typed, names: [] };
    const context = contextOf(declared, 'unit', input);
    const currentOf = (path: string) => declared.current?.(path, context);
    return readSlip({ movement, declared, context, currentOf, labelOf: (path) => path, language: 'en' });
  };
  const unit = { parentId: 1, firstDay: '2027-01-01' };

  test('is sent when nothing is missing; what is needed is said, and what does not fit names its field', async () => {
    expect((await read('new_unit', unit)).missing).toEqual(['name', 'kindId']);
    expect((await read('new_unit', unit)).asked).toEqual({ problems: [] });
    const whole = { ...unit, name: 'Yard', kindId: 2 };
    expect((await read('new_unit', whole)).asked).toEqual({ input: whole, problems: [] });
    const long = await read('new_unit', { ...whole, name: 'x'.repeat(201) });
    expect(long.asked).toEqual({
      problems: [expect.objectContaining({ code: 'text_too_long', field: 'name', params: { most: 200 } })],
    });
  });

  test('and a number that cannot be read stops it, with what was typed kept', async () => {
    const place = { unitId: 1, jobId: 2, firstDay: '2027-01-01' };
    const { missing, asked } = await read('new_position', place, {
      fte: '1,0x',
      'words.limit_lowered': 'agreed',
    });
    expect(missing).toEqual(['fte']);
    expect(asked).toEqual({ problems: [] });
    expect((await read('new_position', { ...place, fte: 150 }, { fte: '1.5' })).asked.input).toMatchObject({
      fte: 150,
    });
    expect(wordsIn({ typed: { 'words.limit_lowered': 'agreed', fte: '1' } })).toEqual({
      limit_lowered: 'agreed',
    });
  });
});
