// What an answer loses that is hidden from somebody, and what grants hide.
import { describe, expect, test } from '@jest/globals';
import { type Grant, hiddenFields } from '@gremium/contract';
import { withoutHidden } from './hidden';

const grant = (
  hides: string[],
  scope: Grant['scope'] = { type: 'all' },
  sections = ['person', 'pay'],
): Grant => ({
  acts: [],
  sections: Object.fromEntries(sections.map((name) => [name, 'view'])),
  scope,
  hides,
});
const of = (...grants: Grant[]) => [...hiddenFields(grants)].sort();

describe('what grants hide', () => {
  const branch: Grant['scope'] = { type: 'branch', unitId: 7 };
  test('a field that one hides and no other shows; one over everything shows it, one over a part does not', () => {
    expect(of(grant(['person.birthDate']))).toEqual(['person.birthDate']);
    expect(of(grant(['person.birthDate']), grant([]))).toEqual([]);
    expect(of(grant(['person.birthDate']), grant([], branch))).toEqual(['person.birthDate']);
    expect(of(grant(['person.birthDate'], branch), grant([]))).toEqual([]);
  });

  test('one that gives nothing of the section shows nothing of it', () => {
    expect(of(grant(['pay.step']), grant([], { type: 'all' }, ['person']))).toEqual(['pay.step']);
  });
});

describe('an answer', () => {
  const viewer = {
    grants: [grant(['person.birthDate', 'own.12.f34'], { type: 'all' }, ['person', 'pay', 'own.12'])],
  };
  const row = (section: string, values: object) => ({ id: 1, section, thing: 2, values });
  test('loses the fields of rows wherever they stand, before and after a correction too; the rest is the same object', () => {
    const kept = row('pay', { amount: '1', birthDate: 'of pay' });
    const answer = {
      name: 'A',
      rows: [row('person', { number: '1', birthDate: '1990-01-01' }), kept],
      deep: { further: [[row('own.12', { f34: 'x', f35: 'y' })]] },
      corrections: [
        { section: 'person', entry: 3, before: { birthDate: 'a', number: '1' }, after: { number: '2' } },
      ],
    };
    const left = withoutHidden(answer, viewer);
    expect(left).toEqual({
      name: 'A',
      rows: [row('person', { number: '1' }), kept],
      deep: { further: [[row('own.12', { f35: 'y' })]] },
      corrections: [{ section: 'person', entry: 3, before: { number: '1' }, after: { number: '2' } }],
    });
    expect(left.rows[1]).toBe(kept);
    expect(answer.rows[0]!.values).toEqual({ number: '1', birthDate: '1990-01-01' });
  });

  test('corrections within a row are of its section; changes of one field are left out', () => {
    const nested = {
      ...row('person', { number: '1' }),
      corrections: [{ entry: 1, before: { birthDate: 'a' }, after: { birthDate: 'b' } }],
    };
    expect(withoutHidden(nested, viewer).corrections).toEqual([{ entry: 1, before: {}, after: {} }]);
    const changes = [
      { section: 'person', field: 'birthDate', was: 'a', is: 'b' },
      { section: 'person', field: 'gender', was: null, is: 'other' },
    ];
    expect(withoutHidden({ changes }, viewer).changes).toEqual([changes[1]]);
  });

  test('is the very same where nothing is hidden', () => {
    const answer = { rows: [row('person', { birthDate: 'x' })] };
    expect(withoutHidden(answer, { grants: [grant([])] })).toBe(answer);
    const other = { rows: [row('pay', { amount: '1' })] };
    expect(withoutHidden(other, viewer)).toBe(other);
  });
});
