import { describe, expect, test } from '@jest/globals';
import { BEGINNING, day } from '../time/calendar';
import { RowRegister } from '../time/register';
import { smallWorld } from '../../test/small-world';
import { inOneCurrency } from './one-currency';

const world = () => {
  const { draft, register } = smallWorld();
  const id = draft.create('exchange_rate', BEGINNING, { code: 'SEK', rate: '10' });
  draft.set('exchange_rate', id, { from: day('2026-01-01'), values: { rate: '12.5' } });
  return register;
};

describe('costs in one currency', () => {
  test('by the rate of the day: 1,000 SEK are 100 EUR, and 80 from the day on which it changed', () => {
    const register = world();
    expect(inOneCurrency(register, { EUR: 50, SEK: 1000 }, day('2025-12-31'))).toEqual({
      currency: 'EUR',
      amount: 150,
      missing: [],
    });
    expect(inOneCurrency(register, { EUR: 50, SEK: 1000 }, day('2026-01-01'))?.amount).toBe(130);
  });

  test('names what has no rate, and is nothing before the organisation is described', () => {
    expect(inOneCurrency(world(), { NOK: 5, EUR: 1 }, day('2026-01-01'))).toMatchObject({ missing: ['NOK'] });
    expect(inOneCurrency(new RowRegister(), { EUR: 1 }, day('2026-01-01'))).toBeNull();
  });
});
