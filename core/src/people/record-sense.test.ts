// What is odd in rows of a record, worked by hand.
import { beforeEach, expect, test } from '@jest/globals';
import type { NewValues, SectionName } from '@gremium/contract';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import { day } from '../time/calendar';
import { Draft } from '../time/draft';
import { sense } from './sense';

let world: SmallWorld;
let personId: number;
beforeEach(() => {
  world = smallWorld();
  personId = world.hired('A', world.position(world.units.harbour, 'A'), START)?.personId ?? 0;
});

let ids = 90_000;
// what a later change by itself is asked
const asked = (change: (draft: Draft) => void) => {
  const draft = new Draft(world.register, () => ids++, 2);
  change(draft);
  return sense(world.register, draft.change, { twins: false, today: '2026-11-23' as never }).problems.map(
    ({ code, field }) => [code, field],
  );
};
const makes = (section: SectionName, values: object, from = '2026-01-01') =>
  asked((draft) =>
    draft.begin(section, ids++, { from: day(from), until: 'infinity' }, { personId, ...values } as never),
  );
const entry = (list: string, flags: object = {}) =>
  world.draft.create('list_entry', START, {
    ...{ list, code: `L${ids++}`, label: { en: 'L', de: 'L' } },
    flags,
  } as NewValues<'list_entry'>);

test('days of another century, and days ahead where they lie behind', () => {
  const kindId = entry('asset_kind');
  const asset = (givenOn: string) => makes('asset', { kindId, label: 'Key', givenOn: day(givenOn) });
  expect(asset('2025-12-31')).toEqual([]);
  expect(asset('1906-01-01')).toEqual([['day_unlikely', 'givenOn']]);
  // a year ahead may be meant, more is not
  expect(asset('2027-01-01')).toEqual([]);
  expect(asset('2027-01-02')).toEqual([['day_ahead', 'givenOn']]);
});

test('two primary addresses, two accounts for pay; one that is not primary, or another kind, is no second one', () => {
  const email = (value: string, more: object = {}) =>
    makes('contact', { kind: 'email', use: 'work', value, primary: true, ...more });
  expect(email('a@a.example')).toEqual([]);
  expect(email('b@a.example')).toEqual([['two_of_one', 'primary']]);
  expect(email('c@a.example', { primary: false })).toEqual([]);
  expect(email('d@a.example', { use: 'private' })).toEqual([]);
  expect(makes('bank_account', { purpose: 'pay', account: 'FI001' })).toEqual([]);
  expect(makes('bank_account', { purpose: 'pay', account: 'FI002' })).toEqual([['two_of_one', 'purpose']]);
});

test('evidence where its kind asks for it; a certificate that had run out when it was recorded', () => {
  const [plain, proven] = [entry('certificate'), entry('certificate', { asks: ['evidence'] })];
  expect(makes('held_certificate', { certificateId: plain })).toEqual([]);
  expect(makes('held_certificate', { certificateId: proven })).toEqual([['evidence_missing', 'evidence']]);
  expect(
    makes('held_certificate', { certificateId: plain, number: '2', expiresOn: day('2025-12-31') }),
  ).toEqual([]);
  expect(
    makes('held_certificate', { certificateId: plain, number: '3', expiresOn: day('2025-12-30') }),
  ).toEqual([['over_already', 'expiresOn']]);
});

test('born after the first day of work, or ninety-one years before it; a dependant older than anybody', () => {
  const born = (on: string) =>
    asked((draft) => draft.set('person', personId, { from: '-infinity', values: { birthDate: day(on) } }));
  expect(born('1990-05-05')).toEqual([]);
  expect(born('2024-02-01')).toEqual([['birth_date_after_first', 'person.birthDate']]);
  expect(born('1932-12-31')).toEqual([['birth_date_unlikely', 'person.birthDate']]);
  const relationId = entry('relation');
  expect(makes('dependant', { dependantName: 'B', relationId, birthDate: day('1910-12-31') })).toEqual([
    ['day_unlikely', 'birthDate'],
  ]);
});

test('whoever changes another field is not asked again', () => {
  const kindId = entry('asset_kind');
  const thing = ids++;
  makes('asset', {});
  const draft = new Draft(world.register, () => ids++, 2);
  draft.begin('asset', thing, { from: day('2026-01-01'), until: 'infinity' }, {
    ...{ personId, kindId, label: 'Key', givenOn: day('1906-01-01') },
  } as never);
  expect(
    asked((next) =>
      next.set('asset', thing, { from: day('2026-02-01'), values: { label: 'Two keys' } as never }),
    ),
  ).toEqual([]);
});
