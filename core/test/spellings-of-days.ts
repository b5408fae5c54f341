// How people write days, and what each is taken for on Monday, 23 November 2026, in a field in which 10 February 2027 stands,
// where the day comes before the month. Worked out by hand; run through core, the browser and a file.
import type { Day } from '@gremium/contract';

/** The day on which they are typed. */
export const TYPED_ON = '2026-11-23' as Day;
/** The day that stands in the field before. */
export const STANDS = '2027-02-10' as Day;

export type Spelling = {
  text: string;
  /** The day it is taken for, or the problem it is refused with. */
  is: string;
  /** Days that are offered instead. */
  offers?: readonly string[];
  /** Counted from a day: not in files, nor in the lens, where the day looked at stands. */
  counted?: true;
};

export const spellings: readonly Spelling[] = [
  { text: '31/3/27', is: '2027-03-31' },
  { text: '1.3.27', is: '2027-03-01' },
  { text: '1/3/2027', is: '2027-03-01' },
  { text: '31032027', is: '2027-03-31' },
  { text: '20270331', is: '2027-03-31' },
  { text: '3 Mar 2027', is: '2027-03-03' },
  { text: '3 March 27', is: '2027-03-03' },
  { text: '1. März 27', is: '2027-03-01' },
  { text: '1. Maerz 2027', is: '2027-03-01' },
  { text: '2027-03-31', is: '2027-03-31' },
  { text: '2027/3/1', is: '2027-03-01' },
  { text: 'March 1, 2027', is: '2027-03-01' },
  { text: '3rd of May 2027', is: '2027-05-03' },
  { text: '24-12-2026', is: '2026-12-24' },
  { text: '24 12 2026', is: '2026-12-24' },
  { text: '29.02.2028', is: '2028-02-29' },
  { text: '  5. 6. 2027 ', is: '2027-06-05' },
  { text: 'Dienstag, 2. März 2027', is: '2027-03-02' },
  { text: '15 dez. 2026', is: '2026-12-15' },
  { text: '1.10.68', is: '1968-10-01' },
  { text: '31.12.1968', is: '1968-12-31' },
  { text: '31.12.2O27', is: 'day_unread' },
  { text: '31.2.2027', is: 'day_unreal', offers: ['2027-02-28', '2027-03-01'] },
  { text: '30.2.2027', is: 'day_unreal', offers: ['2027-02-28', '2027-03-01'] },
  { text: '29.02.2027', is: 'day_unreal', offers: ['2027-02-28', '2027-03-01'] },
  { text: '2/30/2027', is: 'day_invalid' },
  { text: '4/25/2027', is: 'day_order', offers: ['2027-04-25'] },
  { text: '31.3.', is: 'day_year_missing', offers: ['2026-03-31', '2027-03-31'] },
  { text: '40.1.2027', is: 'day_invalid' },
  { text: '1.1.1850', is: 'day_invalid' },
  { text: 'soon', is: 'day_unread' },
  { text: 'Monday, 2 March 2027', is: 'day_weekday', offers: ['2027-03-02'] },
  { text: 'today', is: '2026-11-23', counted: true },
  { text: 'heute', is: '2026-11-23', counted: true },
  { text: 'tomorrow', is: '2026-11-24', counted: true },
  { text: 'morgen', is: '2026-11-24', counted: true },
  { text: 'Übermorgen', is: '2026-11-25', counted: true },
  { text: '+14', is: '2027-02-24', counted: true },
  { text: '-3', is: '2027-02-07', counted: true },
  { text: '+2 Wochen', is: '2027-02-24', counted: true },
  { text: '+1 month', is: '2027-03-10', counted: true },
  { text: 'end of month', is: '2027-02-28', counted: true },
  { text: 'Monatsende', is: '2027-02-28', counted: true },
  { text: 'Ende des Monats', is: '2027-02-28', counted: true },
];
