// What own fields demand, worked by hand: filled by whoever records anew, said by one owner at a time.
import { beforeEach, describe, expect, test } from '@jest/globals';
import { type Change, type OwnField, type Row, ownSections, preset } from '@gremium/contract';
import { definedField, definedSection } from '../../test/own-definitions';
import { ownFieldsFit } from './own-laws';
import { RowRegister } from './register';

const [SECTION, BADGE, SIZE] = [50, 60, 61];
const catalogueOf = (badge: Partial<OwnField>) =>
  preset.with(
    ownSections(
      [definedSection(SECTION)],
      [definedField(BADGE, SECTION, badge), definedField(SIZE, SECTION)],
    ),
    1,
  );

let ids = 100;
const row = (thing: number, ownerId: number, values: object, from = '2026-01-01', until = 'infinity'): Row =>
  ({
    ...{ id: ++ids, lineage: ids, section: `own.${SECTION}`, thing, from, until, entry: 1 },
    values: { ownerId, [`f${BADGE}`]: null, [`f${SIZE}`]: null, ...values },
  }) as unknown as Row;
const said = (badge: Partial<OwnField>, there: readonly Row[], change: Partial<Change>) => {
  const whole = { recorded: [], superseded: [], ...change };
  const register = new RowRegister([...there, ...whole.recorded], catalogueOf(badge));
  return ownFieldsFit(register, whole).map(({ problem: { code, field } }) => [code, field]);
};
const badge = (value: string | null) => ({ [`f${BADGE}`]: value });
const size = (value: string | null) => ({ [`f${SIZE}`]: value });

beforeEach(() => {
  ids = 100;
});

describe('to be filled', () => {
  const required = { required: true };
  test('whoever records anew is asked; empty before, a change of another field is not stopped; filled before, it is not emptied', () => {
    const asked = [['field_required', `f${BADGE}`]];
    expect(said(required, [], { recorded: [row(1, 9, size('L'))] })).toEqual(asked);
    expect(said(required, [], { recorded: [row(1, 9, badge('A'))] })).toEqual([]);
    const empty = row(1, 9, size('L'));
    expect(said(required, [], { superseded: [empty], recorded: [row(1, 9, size('M'))] })).toEqual([]);
    const full = row(1, 9, badge('A'));
    expect(said(required, [], { superseded: [full], recorded: [row(1, 9, {})] })).toEqual(asked);
  });

  test('retired it asks for nothing', () => {
    expect(said({ ...required, retired: true }, [], { recorded: [row(1, 9, {})] })).toEqual([]);
  });
});

describe('said by one owner', () => {
  const unique = { unique: true };
  const there = () => [row(1, 9, badge('A-1'))];
  test('another one with the same at the same time is refused, capitals aside; before or after it is not the same time', () => {
    const twice = [['field_unique', `f${BADGE}`]];
    expect(said(unique, there(), { recorded: [row(2, 8, badge('a-1'))] })).toEqual(twice);
    expect(said(unique, there(), { recorded: [row(2, 8, badge('A-2'))] })).toEqual([]);
    expect(
      said(unique, there(), { recorded: [row(2, 8, badge('A-1'), '2025-01-01', '2026-01-01')] }),
    ).toEqual([]);
    expect(
      said(unique, there(), { recorded: [row(2, 8, badge('A-1'), '2025-01-01', '2026-01-02')] }),
    ).toEqual(twice);
  });

  test('the same thing goes on with it; two that were equal before are not stopped in another field', () => {
    const own = there();
    expect(
      said(unique, [], { superseded: own, recorded: [row(1, 9, { ...badge('A-1'), ...size('L') })] }),
    ).toEqual([]);
    const equal = row(2, 8, badge('A-1'));
    expect(
      said(unique, there(), {
        superseded: [equal],
        recorded: [row(2, 8, { ...badge('A-1'), ...size('L') })],
      }),
    ).toEqual([]);
  });
});
