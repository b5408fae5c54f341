import type { InputField, Kind, Named } from '@gremium/contract';
import { isEqual } from '@gremium/core';
import { isReadTyped, readTyped } from '../ui/typed';
import { withValue } from './at-path';
import type { Chosen } from '../ui/finder';
import { type LocalMovement, keptMovements } from './kept-movements';
import { asField } from './slip-reading';

type Writing = {
  fieldOf: (path: string) => InputField;
  /** What stands without anything written. */
  currentOf: (path: string) => unknown;
  language: string;
};

/** Writes into a slip: each letter is kept at once. */
export const slipWriter = (movement: LocalMovement, { fieldOf, currentOf, language }: Writing) => {
  const { input, typed, names } = movement;
  const write = (changes: Partial<LocalMovement>) => keptMovements.keep({ ...movement, ...changes });
  // what stands already is not written again
  const put = (path: string, value: unknown, more: Partial<LocalMovement> = {}) => {
    const isBack = isEqual(value ?? null, currentOf(path) ?? null);
    const isGone = value === undefined || (value === null && currentOf(path) === undefined);
    const { [path]: _, ...others } = typed;
    write({ input: withValue(input, path, isBack || isGone ? undefined : value), typed: others, ...more });
  };
  return {
    put,
    /** Takes what was typed: numbers as they are read, and the text beside them. */
    type: (path: string, value: unknown) => {
      const field = asField(fieldOf(path));
      if (!isReadTyped(field) || typeof value !== 'string') return put(path, value);
      const read = readTyped(field, value, language);
      // of a day that was read nothing else is to be kept
      if (field.is === 'day' && 'value' in read) return put(path, value);
      write({
        input: withValue(input, path, 'problem' in read ? undefined : read.value),
        typed: { ...typed, [path]: value },
      });
    },
    choose: (path: string, kind: Kind, chosen: Chosen | null) => {
      const named: Named[] = chosen ? [...names, { kind, id: chosen.id, name: chosen.name }] : names;
      put(path, chosen?.id ?? null, { names: named });
    },
    /** What stands beside the input, as it is typed. */
    note: (name: string, text: string) => write({ typed: { ...typed, [name]: text } }),
    /** A word for a warning, by its code. */
    saySo: (code: string, text: string) => write({ typed: { ...typed, [`words.${code}`]: text } }),
  };
};
