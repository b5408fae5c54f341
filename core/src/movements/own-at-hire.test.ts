// What a hire asks in own fields, by the rights of whoever hires.
import { expect, test } from '@jest/globals';
import { type Grant, ownSections, preset } from '@gremium/contract';
import { definedField, definedSection } from '../../test/own-definitions';
import { ownOfHire } from './own-at-hire';

const catalogue = preset.with(
  ownSections(
    [definedSection(1), definedSection(2), definedSection(3, { several: true })],
    [
      definedField(11, 1, { atHire: true, required: true }),
      definedField(12, 1, { atHire: true, kind: 'unit' }),
      definedField(13, 1, { required: true }),
      definedField(21, 2, { atHire: true, required: true }),
      definedField(31, 3, { atHire: true, required: true }),
    ],
  ),
  1,
);
const grant = (sections: Grant['sections'], hides: string[] = []): Grant => ({
  ...{ acts: [], scope: { type: 'all' }, sections, hides },
});
const of = (said: Record<string, unknown>, ...grants: Grant[]) => {
  const { strange, named, missing } = ownOfHire(catalogue, grants, said);
  return [
    strange,
    named.map(({ path, kind, id }) => `${path} ${kind} ${id}`),
    missing.map(({ field }) => field),
  ];
};

test('what is marked so of sections with one row is asked of whoever records there; what it names is told', () => {
  const both = grant({ 'own.1': 'edit', 'own.2': 'edit', 'own.3': 'edit' });
  expect(of({}, both)).toEqual([null, [], ['own.f11', 'own.f21']]);
  expect(of({ f11: 'x', f12: 7, f21: '' }, both)).toEqual([null, ['own.f12 unit 7'], []]);
  expect(of({ f11: null, f21: 'y' }, both)).toEqual([null, [], ['own.f11']]);
});

test('of a section that is not theirs, or a field that is hidden, nothing is asked and nothing may be said', () => {
  const one = grant({ 'own.1': 'edit', 'own.2': 'view' });
  expect(of({}, one)).toEqual([null, [], ['own.f11']]);
  expect(of({ f11: 'x', f21: 'y' }, one)).toEqual(['f21', [], []]);
  const hiding = grant({ 'own.1': 'edit', 'own.2': 'edit' }, ['own.1.f11']);
  expect(of({}, hiding)).toEqual([null, [], ['own.f21']]);
  expect(of({ f11: 'x', f21: 'y' }, hiding)[0]).toBe('f11');
});
