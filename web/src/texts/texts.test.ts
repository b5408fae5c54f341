import { describe, expect, test } from '@jest/globals';
import { problemCodes } from '@gremium/contract';
import * as files from '../files/file-texts';
import * as reports from '../measures/report-texts';
import { de } from './de';
import { en } from './en';

const keysOf = (texts: object, at = ''): string[] =>
  Object.entries(texts).flatMap(([key, text]) =>
    typeof text === 'string' ? [`${at}${key}`] : keysOf(text as object, `${at}${key}.`),
  );
const textAt = (texts: object, key: string) =>
  key.split('.').reduce<unknown>((at, part) => (at as Record<string, unknown>)[part], texts) as string;
const placeholders = (text: string) => [...text.matchAll(/\{\{(\w+)\}\}/g)].map(([, name]) => name).sort();

describe('the catalogue of texts', () => {
  test.each([
    ['whole', { en, de }],
    ['reports', reports],
    ['files', files],
  ])('has the same keys with the same placeholders in every language, none empty (%s)', (_, texts) => {
    expect(keysOf(texts.de)).toEqual(keysOf(texts.en));
    for (const key of keysOf(texts.en)) {
      expect([key, placeholders(textAt(texts.de, key))]).toEqual([key, placeholders(textAt(texts.en, key))]);
      expect(textAt(texts.de, key).trim()).not.toBe('');
    }
  });

  test('has a sentence for every problem code and for nothing else', () => {
    expect(Object.keys(en.problem).sort()).toEqual(Object.keys(problemCodes).sort());
  });
});
