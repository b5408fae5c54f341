// Every change of generated histories, one after another: what effects say of it must be what is found by looking before
// and after.
import { describe, expect, test } from '@jest/globals';
import type { Change, Problem, Row, Values } from '@gremium/contract';
import { randomHistory } from '../../../demo/random-history';
import { chronicle } from '../people/chronicle';
import { mainEmployment, spellsOf } from '../people/employments';
import { managerOf } from '../structure/manager';
import { markOf } from '../structure/mark';
import { isOn } from '../time/calendar';
import { type Register, RowRegister } from '../time/register';
import { effects } from './effects';

const idOf = (problem: Problem, param: string): number => (problem.params[param] as { id: number }).id;

const sizes = (register: Register): string =>
  ['employment', 'placement', 'position', 'pay', 'person']
    .map((section) =>
      [...register.all(section as 'pay')]
        .map(({ id }) => id)
        .sort()
        .join(),
    )
    .join('|');

const placementsIn = ({ recorded, superseded }: Change): Row<'placement'>[] =>
  [...recorded, ...superseded].filter(
    ({ section }) => section === 'placement',
  ) as unknown as Row<'placement'>[];

// FTE of a unit on a day, in hundredths, added up row by row in floating numbers.
const fteOf = (register: Register, unitId: number, on: string): number => {
  let sum = 0;
  for (const row of register.all('placement')) {
    if (!isOn(row, on as never)) continue;
    if (register.at('position', row.values.positionId, on as never)?.unitId !== unitId) continue;
    sum += (row.values.hours - row.values.lentHours) / row.values.fullTime;
  }
  return sum * 100;
};

/** Compares the manager that effects name with the one found afterwards, over a history; returns how often. */
const managersSaid = (seed: number): number => {
  const { history } = randomHistory(seed, 120);
  const register = new RowRegister();
  let named = 0;
  for (const entry of history.past()) {
    const first = entry.recorded.find(({ section }) => section === 'placement');
    const on = first?.from;
    const found = on && on !== '-infinity' ? effects(register, entry, on) : [];
    register.apply(entry);
    const said = found.find(({ code }) => code === 'effect_reports_to');
    const values = first?.values as Values<'placement'> | undefined;
    const person = values && register.rows('employment', values.employmentId)[0]?.values.personId;
    if (!said || !on || person === undefined || values?.kind !== 'primary') continue;
    // of a second employment beside the main one it tells whom that reports to
    if (mainEmployment(spellsOf(register, person), on)?.id !== values.employmentId) continue;
    const manager = managerOf(register, person, on);
    if (!manager) continue;
    expect([idOf(said, 'manager'), said.params['bridged']]).toEqual([
      manager.personId,
      manager.bridged ? 'yes' : 'no',
    ]);
    named += 1;
  }
  return named;
};

describe('effects of a change', () => {
  test.each([1, 2, 3, 4, 5, 6, 7, 8])(
    'history %i: marks, FTE and manager are those found by looking before and after; nothing is left behind',
    (seed) => {
      const { history } = randomHistory(seed, 90);
      const register = new RowRegister();
      let looked = 0;
      for (const entry of history.past()) {
        const rows = placementsIn(entry);
        const on = entry.recorded.find(({ section }) => section === 'placement')?.from;
        if (on && on !== '-infinity' && rows.length < 20) {
          const was = sizes(register);
          const found = effects(register, entry, on);
          expect(sizes(register)).toBe(was);
          const positions = [...new Set(rows.map(({ values }) => values.positionId))];
          const before = positions.map((id) => markOf(register, id, on));
          const units = [
            ...new Set(positions.flatMap((id) => register.at('position', id, on)?.unitId ?? [])),
          ];
          const fteBefore = units.map((id) => fteOf(register, id, on));
          register.apply(entry);
          const changed = positions.filter((id, i) => markOf(register, id, on) !== before[i]);
          expect(
            found
              .filter(({ code }) => code === 'effect_mark')
              .map((problem) => idOf(problem, 'position'))
              .sort(),
          ).toEqual(changed.filter((id) => markOf(register, id, on) !== undefined).sort());
          for (const problem of found.filter(({ code }) => code === 'effect_fte')) {
            const unit = units.indexOf(idOf(problem, 'unit'));
            if (unit < 0) continue; // a unit whose position is made by the change itself
            const by = fteOf(register, units[unit] as number, on) - (fteBefore[unit] as number);
            expect(Math.abs(Number(problem.params['hundredths']) - by)).toBeLessThan(1);
          }
          looked += 1;
        } else register.apply(entry);
      }
      expect(looked).toBeGreaterThan(10);
    },
  );

  test('the manager it names is the one the person has after it', () => {
    let named = 0;
    for (let seed = 31; seed < 61; seed++) named += managersSaid(seed);
    expect(named).toBeGreaterThan(5);
  });
});

describe('the chronicle over generated histories', () => {
  test.each([21, 22, 23, 24])('history %i: as many joinings and leavings as employments say', (seed) => {
    const { register } = randomHistory(seed, 120).history;
    for (const personId of register.things('person')) {
      const told = chronicle(register, personId);
      const spells = spellsOf(register, personId);
      const count = (what: string) => told.filter((happening) => happening.what === what).length;
      expect(count('joined') + count('continued')).toBe(spells.length);
      const goOn = spells.filter(({ id, until }) =>
        register.referrers('employment', 'continuesId', id).some(({ from }) => from === until),
      );
      const ended = spells.filter(({ until }) => until !== 'infinity');
      expect(count('left')).toBe(ended.length - goOn.length);
      const days = told.map(({ day }) => day);
      expect(days).toEqual([...days].sort().reverse());
    }
  });
});
