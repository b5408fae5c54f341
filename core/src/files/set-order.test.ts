import { describe, expect, test } from '@jest/globals';
import { preset } from '@gremium/contract';
import { filesInOrder } from './set-order';

const ordered = (...subjects: string[]) =>
  filesInOrder(
    preset,
    subjects.map((subject) => ({ subject })),
  ).map(({ subject }) => subject);

describe('files of one import', () => {
  test('what others must name comes before them, whatever order they come in', () => {
    const wanted = ['list_entry', 'location', 'job', 'unit', 'position', 'people', 'contact'];
    for (const given of [
      wanted,
      [...wanted].reverse(),
      ['people', 'contact', 'unit', 'list_entry', 'position', 'job', 'location'],
    ])
      expect(ordered(...given).filter((one) => one !== 'location' && one !== 'job')).toEqual([
        'list_entry',
        'unit',
        'position',
        'people',
        'contact',
      ]);
  });

  test('of those that name each other first the one that can do without: a unit has a head only where one is said', () => {
    expect(ordered('position', 'unit')).toEqual(['unit', 'position']);
    expect(ordered('position', 'grade', 'job')).toEqual(['grade', 'job', 'position']);
    expect(ordered('grade_step_pay', 'grade_step', 'grade')[0]).toBe('grade');
  });

  test('several files about one thing keep the order in which they came', () => {
    const files = [
      { subject: 'unit', id: 2 },
      { subject: 'list_entry', id: 3 },
      { subject: 'unit', id: 1 },
    ];
    expect(filesInOrder(preset, files).map(({ id }) => id)).toEqual([3, 2, 1]);
  });
});
