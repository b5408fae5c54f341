// A field as lists, reports and conditions see one: what its values are, what rights it needs, how it is read.
import type { FieldMeta, SectionName } from '@gremium/contract';
import type { Fraction } from '../structure/fraction';
import type { Cursor } from './cursor';

/** What the values of a field are. `exact`: a fraction; `entry`, `thing`: the id of something that is called by its label. */
export type ValueKind =
  'text' | 'number' | 'hundredths' | 'exact' | 'day' | 'yes_no' | 'choice' | 'entry' | 'entries' | 'thing';

/** A value as it is read: ids of entries and things, days as text, exact numbers as fractions; null where there is none. */
export type Value = string | number | boolean | Fraction | readonly number[] | null;

/** Which of several rows a column tells: how many there are, the one begun last, all of them in one cell, or a row for each. */
export type Several = 'count' | 'latest' | 'all' | 'each';

/** A field of a subject. */
export type ReportField = {
  /** Never another one: `position.standing`, `own.12.f34`. */
  id: string;
  /** The section under which it is offered. */
  section: SectionName;
  /** What it is called: a field of its section, or a word of its own (`age`). */
  name: string;
  kind: ValueKind;
  meta?: FieldMeta;
  /** All sections it reads: each right is needed. */
  needs: readonly SectionName[];
  /** Fields that it reads and that may be hidden: it is hidden with them. */
  reads?: readonly string[];
  /** It is worked out. */
  isWorkedOut?: true;
  /** Several rows at a time: only as a count, the latest or all. */
  isSeveral?: true;
  /** The value of the row the cursor is at; of several, of the one begun last. */
  read: (at: Cursor) => Value;
  /** By what it is sorted, where not by what it says. */
  sortedBy?: (at: Cursor) => string | null;
  /** Of several: all of them. */
  readAll?: (at: Cursor) => readonly Value[];
  /** What a value belongs to: in totals each is counted once. */
  source: (at: Cursor) => number;
};
