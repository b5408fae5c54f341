// What a slip says of its kind: its fields in the order of reading, its words in both languages. The rest is the frame's.
import type { ConcernedOut, Day, Kind, ListEntry, Moved, MovementKind, Problem } from '@gremium/contract';
import type { ComponentType } from 'react';
import type { usePayInWords, useRangeInWords } from '../people/pay-in-words';
import type { Format } from '../texts/format';
import type { SlipShowing } from './slip-showing';

/** Words of a slip in one language; labels and notes by the path of the field. */
export type SlipWords = {
  /** On the button: the act, done now. */
  submit: string;
  /** Above the fields, where nothing is chosen yet. */
  title: string;
  lead: string;
  /** Over what is folded away. */
  more?: string;
  fields?: Record<string, string>;
  notes?: Record<string, string>;
  options?: Record<string, string>;
  needs?: Record<string, string>;
};

/** What a slip is worked out from. */
export type SlipContext = {
  /** The record it was begun from. */
  about: { kind: string; id: number };
  input: Record<string, unknown>;
  day: Day | undefined;
  showing: SlipShowing;
  /** The name of what the field at a path names; empty where nothing is chosen. */
  named: (path: string) => string;
  words: SlipWords;
  format: Format;
  payInWords: ReturnType<typeof usePayInWords>;
  rangeInWords: ReturnType<typeof useRangeInWords>;
  /** Fields (`person.birthDate`) that are hidden from whoever writes it. */
  hidden: ReadonlySet<string>;
  /** Own fields that it asks for, by their paths. */
  own: readonly string[];
};

/** One field, or two side by side, by their paths. */
export type SlipRow = string | readonly [string, string];

export type SlipDeclaration = {
  en: SlipWords;
  de: SlipWords;
  title: (context: SlipContext) => string;
  lead: (context: SlipContext) => string;
  rows: (context: SlipContext) => readonly SlipRow[];
  /** Folded away until somebody wants it. */
  more?: (context: SlipContext) => readonly SlipRow[];
  /** The input as it is sent, of the one that is written. */
  prepare?: (input: Record<string, unknown>, context: SlipContext) => Record<string, unknown>;
  /** What now stands, shown until something else is written. */
  current?: (path: string, context: SlipContext) => unknown;
  /** A line under a field: where its value comes from if nothing is typed. */
  note?: (path: string, context: SlipContext) => string | undefined;
  /** What more is needed before it can be completed, in words. */
  needs?: (context: SlipContext) => string[];
  /** How a number is said back. */
  understood?: (path: string, value: unknown, context: SlipContext) => string | undefined;
  /** Which entries of a list can be chosen. */
  fits?: (path: string, entry: ListEntry) => boolean;
  /** Records of which the values are shown. */
  reads?: (
    input: Record<string, unknown>,
    about: SlipContext['about'],
  ) => { positions?: unknown[]; units?: unknown[]; people?: unknown[] };
  /** Problems that are said by what is still needed. */
  hidden?: Problem['code'][];
  /** What the next one of the kind has alike: where it is completed "and next alike". */
  alike?: (context: SlipContext) => { about: SlipContext['about']; input: Record<string, unknown> };
  /** Of those it concerns some can be decided otherwise: the list of their ids, and the word that does it. */
  exceptions?: {
    /** The list in the input, by the kind of thing where there are several. */
    path: string | { [K in Kind]?: string };
    word: (isOther: boolean, context: SlipContext, line: ConcernedOut) => string;
  };
  /** It changes what is there, so that before and after stand side by side. */
  hasBefore?: true;
  /** What was before stands again afterwards. */
  returns?: true;
  /** What comes of it as a picture, over the values. */
  picture?: ComponentType<{ moved: Pick<Moved, 'slip'>; context: SlipContext }>;
};

/** Declares the slip of a kind. */
export const slip = (_kind: MovementKind, declared: SlipDeclaration): SlipDeclaration => declared;
