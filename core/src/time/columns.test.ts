// Columns answer as rows do, after every change of generated histories, and after a change was taken out again.
import { describe, expect, test } from '@jest/globals';
import { type SectionName, preset, presetNames } from '@gremium/contract';
import { randomHistory } from '../../../demo/random-history';
import { Columns } from './columns';
import { type Register, RowRegister } from './register';
import { canonicalJson } from './table';

// rare ones are loaded when somebody asks for them
const kept = presetNames.filter((name) => !preset.section(name).rare);

const written = (register: Register): string[] =>
  kept
    .flatMap((section) =>
      [...register.all(section)].map(({ values, ...row }) => JSON.stringify(row) + canonicalJson(values)),
    )
    .sort();

const followed = [
  ['placement', 'employmentId', 'employment'],
  ['placement', 'positionId', 'position'],
  ['employment', 'personId', 'person'],
  ['position', 'unitId', 'unit'],
  ['unit', 'kindId', 'list_entry'],
] as const;

const sameReferences = (a: Register, b: Register): void => {
  const idsOf = (register: Register, section: SectionName, field: string, thing: number) =>
    register
      .referrers(section, field as never, thing)
      .map(({ id }) => id)
      .sort();
  for (const [section, field, kind] of followed)
    for (const thing of b.things(kind))
      expect(idsOf(a, section, field, thing)).toEqual(idsOf(b, section, field, thing));
};

describe('the register as columns', () => {
  test.each([1, 2, 3, 4])('history %i: equals rows after every entry, undo included', (seed) => {
    const { history } = randomHistory(seed, 120);
    const [columns, rows] = [new Columns(), new RowRegister()];
    history.entries.forEach(({ change }, i) => {
      columns.apply(change);
      rows.apply(change);
      if (i % 7 !== 0 && i !== history.entries.length - 1) return;
      expect(written(columns)).toEqual(written(rows));
      sameReferences(columns, rows);
    });
    const before = written(columns);
    const last = history.entries.at(-1)!.change;
    columns.revert(last);
    expect(written(columns)).not.toEqual(before);
    columns.apply(last);
    expect(written(columns)).toEqual(before);
  });

  test('refuses a change that does not fit what is believed', () => {
    const { history } = randomHistory(3, 20);
    const columns = new Columns();
    const { change } = history.entries.find(({ change: { superseded } }) => superseded.length > 0)!;
    expect(() => columns.apply(change)).toThrow('is not believed');
  });
});
