import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimalSignOf, readColumnNumber, readHundredths, readNumber } from './read-number';

const said = (read: ReturnType<typeof readNumber>): string =>
  'value' in read ? read.value : [read.problem.code, ...read.offers].join(' ');
const inEnglish = (text: string) => said(readNumber(text, ','));
const inGerman = (text: string) => said(readNumber(text, '.'));
const inFile = (text: string, column: string[] = []) =>
  said(readColumnNumber(text, decimalSignOf([text, ...column])));

const UNREAD = 'number_unread';
const asked = (decimal: string, grouped: string) => `number_ambiguous ${decimal} ${grouped}`;

describe('numbers as people write them', () => {
  test.each([
    // text, in English, in German, alone in a column of a file
    ['3100', '3100', '3100', '3100'],
    ['26,400', '26400', asked('26.4000', '26400'), asked('26.4000', '26400')],
    ['26.400', asked('26.4000', '26400'), '26400', asked('26.4000', '26400')],
    ['2.650', asked('2.6500', '2650'), '2650', asked('2.6500', '2650')],
    ['26,4', '26.4', '26.4', '26.4'],
    ['26.40', '26.4', '26.4', '26.4'],
    ['3,100.50', '3100.5', '3100.5', '3100.5'],
    ['3.100,50', '3100.5', '3100.5', '3100.5'],
    ["3'100.50", '3100.5', '3100.5', '3100.5'],
    ['3’100', '3100', '3100', '3100'],
    ['3 100,50', '3100.5', '3100.5', '3100.5'],
    ['3\u00a0100', '3100', '3100', '3100'],
    ['3\u202f100,5', '3100.5', '3100.5', '3100.5'],
    ['1.234.567', '1234567', '1234567', '1234567'],
    ['1,234,567.8', '1234567.8', '1234567.8', '1234567.8'],
    ['0,600', '0.6', '0.6', '0.6'],
    ['0.600', '0.6', '0.6', '0.6'],
    ['1234,567', '1234.567', '1234.567', '1234.567'],
    [' 37,5 ', '37.5', '37.5', '37.5'],
    ['-12,30', '-12.3', '-12.3', '-12.3'],
    ['+5', '5', '5', '5'],
    ['007', '7', '7', '7'],
    ['-0', '0', '0', '0'],
    ['1.2340', '1.234', '1.234', '1.234'],
    ['1.23.4', UNREAD, UNREAD, UNREAD],
    ['1,2.5', UNREAD, UNREAD, UNREAD],
    ['12.34,567.8', UNREAD, UNREAD, UNREAD],
    ['31 00', UNREAD, UNREAD, UNREAD],
    ['5 %', UNREAD, UNREAD, UNREAD],
    ['abc', UNREAD, UNREAD, UNREAD],
    ['1e3', UNREAD, UNREAD, UNREAD],
    ['', UNREAD, UNREAD, UNREAD],
  ])('%p is %s in English, %s in German, %s alone in a file', (text, english, german, file) => {
    expect([inEnglish(text), inGerman(text), inFile(text)]).toEqual([english, german, file]);
  });

  test('what cannot be meant is no reading: hours of a week are at most 168', () => {
    expect(said(readNumber('37.500', '.', 168))).toBe('37.5');
    expect(readHundredths('37,500', ',', 168)).toEqual({ value: 3750 });
  });

  test('each reading offered where it is asked is read without doubt in both languages', () => {
    for (const text of ['2.650', '26,400', '-1,234'])
      for (const read of [inEnglish, inGerman, (one: string) => inFile(one)]) {
        const [code, ...offers] = read(text).split(' ');
        if (code !== 'number_ambiguous') continue;
        expect(offers.map(inEnglish)).toEqual(offers.map(inGerman));
        expect(offers.every((offer) => !inEnglish(offer).startsWith('number'))).toBe(true);
      }
  });

  test('what an amount looks like on the screen is read as that amount, in the language of the screen', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -99_999_999, max: 99_999_999 }),
        fc.constantFrom('en', 'de'),
        (cents, language) => {
          const shown = new Intl.NumberFormat(language === 'en' ? 'en-GB' : 'de', {
            minimumFractionDigits: 2,
          }).format(cents / 100);
          return Number(said(readNumber(shown, language === 'de' ? '.' : ','))) === cents / 100;
        },
      ),
    );
  });
});

describe('a column of a file decides what its cells leave open', () => {
  test.each([
    ['26,400', ['3,100.50'], '26400'],
    ['26,400', ['17,5'], '26.4'],
    ['2.650', ['1.234.567'], '2650'],
    ['2.650', ['2.5'], '2.65'],
    // cells that disagree decide nothing
    ['2.650', ['2.5', '2,5'], asked('2.6500', '2650')],
    ['2.650', ['3.100', '4.200'], asked('2.6500', '2650')],
    // one that was asked and answered is of that cell alone
    ['2.650', ['3.1000'], asked('2.6500', '2650')],
  ])('%s beside %j is %s', (text, others, expected) => expect(inFile(text, others)).toBe(expected));

  test('numbers of a workbook come with a point by themselves: they show nothing of its office', () => {
    expect(decimalSignOf(['2650.5', '31.25'], true)).toBe(null);
    expect(decimalSignOf(['2650.5', '31.25'])).toBe('.');
    expect(decimalSignOf(['2650.5', '31,25'], true)).toBe(',');
  });
});

describe('hours and shares', () => {
  test.each([
    ['37,5', 3750],
    ['37.5', 3750],
    ['7', 700],
    ['0', 'share_range'],
    ['0.00', 'share_range'],
    ['-3', 'share_range'],
    ['169', 'share_range'],
    ['abc', UNREAD],
  ])('%s is %s', (text, expected) => {
    const read = readHundredths(text, ',', 168);
    expect('value' in read ? read.value : read.problem.code).toBe(expected);
  });
});
