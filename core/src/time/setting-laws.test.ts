// What the organisation may say of a field, by hand.
import { expect, test } from '@jest/globals';
import {
  type FieldSetting,
  type OwnField,
  type Row,
  type SectionName,
  ownSections,
  preset,
} from '@gremium/contract';
import { definedField, definedSection } from '../../test/own-definitions';
import { RowRegister } from './register';
import { canShowIn, isNeeded, settingsFit } from './setting-laws';

const label = { en: 'x', de: 'x' };
const catalogue = preset.with(
  ownSections(
    [
      ...[definedSection(1), definedSection(2), definedSection(3, { several: true })],
      definedSection(4, { of: 'unit' }),
    ],
    [definedField(11, 1), definedField(12, 1, { required: true })],
  ),
  1,
);
let ids = 100;
const row = (section: SectionName, thing: number, values: object): Row =>
  ({
    id: ++ids,
    lineage: ids,
    section,
    thing,
    from: '-infinity',
    until: 'infinity',
    entry: 1,
    values,
  }) as unknown as Row;
const setting = (section: string, name: string, more: Partial<FieldSetting> = {}) =>
  row('field_setting', ++ids, {
    ...{ section, field: name, label: null, hiddenFrom: null, place: null, shownIn: null },
    ...more,
  });
const said = (recorded: Row, ...there: Row[]) =>
  settingsFit(new RowRegister([...there, recorded], catalogue), { recorded: [recorded], superseded: [] }).map(
    ({ problem: { code, field: at } }) => [code, at],
  );

test('one of a field that there is', () => {
  expect(said(setting('person', 'birthDate', { label }))).toEqual([]);
  expect(said(setting('own.1', 'f11', { hiddenFrom: ['crew'] }))).toEqual([]);
  expect(said(setting('person', 'nothing'))).toEqual([['setting_of_nothing', 'field']]);
  expect(said(setting('own.9', 'f11'))).toEqual([['setting_of_nothing', 'field']]);
  expect(said(setting('own.1', 'ownerId'))).toEqual([['setting_of_nothing', 'field']]);
  expect(said(setting('person', 'birthDate'), setting('person', 'birthDate'))).toEqual([
    ['setting_there', 'field'],
  ]);
});

test('hidden is only what need not be filled, and names nobody', () => {
  const hidden = { hiddenFrom: ['auditor' as const] };
  expect(said(setting('person', 'number', hidden))).toEqual([['setting_needed', 'hiddenFrom']]);
  expect(said(setting('person_name', 'family', hidden))).toEqual([['setting_needed', 'hiddenFrom']]);
  expect(said(setting('own.1', 'f12', hidden))).toEqual([['setting_needed', 'hiddenFrom']]);
  expect(isNeeded(catalogue.section('person'), 'birthDate')).toBe(false);
  // and what is hidden is not made needed
  const needed = row('own_field', 11, definedField(11, 1, { required: true }).values);
  expect(said(needed, setting('own.1', 'f11', hidden))).toEqual([['setting_needed', 'required']]);
  expect(said(needed)).toEqual([]);
});

test('shown in a section of the same thing, where both have one row at a time', () => {
  const shownIn = (name: string) => said(setting('own.1', 'f11', { shownIn: name }));
  expect(shownIn('own.2')).toEqual([]);
  expect(shownIn('person')).toEqual([]);
  for (const other of ['own.1', 'own.3', 'own.4', 'unit', 'contact', 'own.9'])
    expect(shownIn(other)).toEqual([['setting_elsewhere', 'shownIn']]);
  expect(canShowIn(catalogue.section('person'), catalogue.section('own.1'))).toBe(true);
  expect(canShowIn(catalogue.section('own.4'), catalogue.section('unit'))).toBe(true);
});

test('what is preset is one that the field can say', () => {
  const usual = (more: Partial<OwnField>) => said(row('own_field', 20, definedField(20, 1, more).values));
  expect(usual({ kind: 'number', usual: '4.5' })).toEqual([]);
  expect(usual({ kind: 'number', usual: 'many' })).toEqual([['value_invalid', 'usual']]);
  expect(usual({ kind: 'yes_no', usual: false })).toEqual([]);
  expect(usual({ kind: 'text', pattern: 'A-00', usual: 'B-1' })).toEqual([['value_invalid', 'usual']]);
  expect(usual({ kind: 'text', pattern: 'A-00', usual: 'B-12' })).toEqual([]);
});
