// Days as workbooks count them (ECMA-376, part 1, 18.17.4.1), where a cell was not shown as a day.
import type { Day } from '@gremium/contract';
import { addDays, day } from '../time/calendar';

/** From which year a workbook counts its days. */
export type DayBase = 1900 | 1904;

// Day 0 of each: that of 1900 lies two days before the year, as it counts a 29 February 1900 that never was.
const ZERO: Record<DayBase, Day> = { 1900: day('1899-12-30'), 1904: day('1904-01-01') };

// Of five digits: from 1927 (1931) to 2173 (2177); fewer could be anything.
const SERIAL = /^[1-9]\d{4}$/;

/** A cell of a column of days as a day, if it is one of a workbook's numbers; else as it is. @example dayOfSerial('46388', 1900) // '2027-01-01' */
export const dayOfSerial = (text: string, base: DayBase): string =>
  SERIAL.test(text) ? addDays(ZERO[base], Number(text)) : text;
