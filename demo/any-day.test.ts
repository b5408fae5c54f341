// The demo is made whenever somebody starts it first: on each of many days over two years it is what its pages promise.
import { describe, expect, test } from '@jest/globals';
import type { Day } from '@gremium/contract';
import {
  type Register,
  addDays,
  day,
  isBasePay,
  isOn,
  payPlaceOn,
  positionState,
  primaryPlacement,
  spellsOf,
} from '@gremium/core';
import { crewMember } from '../demo/accounts';
import { makeHistory } from '../demo/make';

// every twelfth or so, so that all days of a month and of a week come
const days = Array.from({ length: 60 }, (_, i) => addDays(day('2026-06-03'), i * 12 + (i % 5)));

const paidIn = (register: Register, on: Day) => {
  const countries = new Map<string, { all: number; outside: number }>();
  for (const pay of register.allOn('pay', on)) {
    if (!isBasePay(register, pay.values)) continue;
    const place = payPlaceOn(register, pay, on);
    const entity = register.rows('employment', pay.values.employmentId).at(-1)?.values.legalEntityId ?? 0;
    const country = register.at('legal_entity', entity, on)?.country ?? '';
    const found = countries.get(country) ?? { all: 0, outside: 0 };
    countries.set(country, found);
    if (!place) continue;
    found.all++;
    if (place.isOutside) found.outside++;
  }
  return countries;
};

const risesOf = (register: Register, on: Day): number[] => {
  const steps = [...register.allOn('grade_step_pay', on)].map(({ values }) => values);
  return steps.flatMap(({ gradeId, currency, step, amount }) => {
    const before = steps.find(
      (one) => one.gradeId === gradeId && one.currency === currency && one.step === step - 1,
    );
    return before ? [Number(amount) / Number(before.amount) - 1] : [];
  });
};

// What each stop of the tour wants to show.
const wanting = (register: Register, on: Day): string[] => {
  const positions = [...register.allOn('position', on)].filter(
    ({ values }) => values.standing === 'in_force',
  );
  const states = positions.map(({ thing }) => positionState(register, thing, on));
  const units = [...register.allOn('unit', on)].map(({ values }) => values.name);
  const ahead = (section: 'employment' | 'placement' | 'unit') =>
    [...register.all(section)].some((row) => row.from > on && row.from !== 'infinity');
  const there: Record<string, boolean> = {
    vacancies: states.some(({ occupancy }) => occupancy === 'vacant'),
    'several holders': states.some(({ holders }) => holders.length > 2),
    'over a limit': states.some(({ occupancy }) => occupancy === 'over_held'),
    'somebody coming': ahead('employment'),
    'a move to come': ahead('placement'),
    'Tallinn Harbour': units.includes('Tallinn Harbour'),
    Fleet: units.includes('Fleet'),
    holidays: [...register.allOn('holiday', on)].length > 20,
    rates: [...register.allOn('exchange_rate', on)].length > 2,
    steps: risesOf(register, on).length > 3,
    honours: [...register.allOn('award', on)].length > 0,
    certificates: [...register.allOn('held_certificate', on)].length > 0,
  };
  return Object.entries(there).flatMap(([what, isThere]) => (isThere ? [] : [what]));
};

describe('a demo made on any of sixty days over two years', () => {
  test.each(days)('%s', (on) => {
    const { register } = makeHistory(on, 400);
    expect(wanting(register, on)).toEqual([]);
    const rises = risesOf(register, on);
    expect([Math.min(...rises) >= 0.02, Math.max(...rises) <= 0.08]).toEqual([true, true]);
    const paid = paidIn(register, on);
    expect([...paid.keys()].sort()).toEqual(['DE', 'DK', 'EE', 'FI', 'NO', 'SE']);
    for (const [country, { all, outside }] of paid)
      expect([country, all > 0 && outside <= all * 0.2]).toEqual([country, true]);
    const crew = crewMember(register, on);
    const spell = spellsOf(register, crew?.personId ?? 0).find((one) => isOn(one, on));
    expect([crew !== undefined, spell?.until]).toEqual([true, 'infinity']);
    expect(primaryPlacement(register, spell?.id ?? 0, on)?.until).toBe('infinity');
  });
});
