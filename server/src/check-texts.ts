// What no field may hold, whatever it is for: asked of every request before anything reads it.
import { problem } from '@gremium/core';
import { Failure } from './database/failure';

/** Bodies are nested no deeper; the deepest that a screen sends has eight levels. */
const MOST_DEPTH = 24;

/**
 * Refuses a value with a text that has a NUL or half a surrogate pair (`text_invalid`; the database would refuse it without
 * a word), or that is nested too deeply (`nested_too_deep`), naming the field.
 */
export const checkTexts = (value: unknown, field = '', depth = 0): void => {
  if (typeof value === 'string') {
    if (value.includes('\u0000') || !value.isWellFormed()) refuse('text_invalid', field);
    return;
  }
  if (typeof value !== 'object' || value === null || Buffer.isBuffer(value)) return;
  if (depth >= MOST_DEPTH) refuse('nested_too_deep', field.split('.').slice(0, 3).join('.'));
  for (const [name, part] of Object.entries(value)) {
    const at = field === '' ? name : `${field}.${name}`;
    if (name.includes('\u0000') || !name.isWellFormed()) refuse('text_invalid', field || 'body');
    checkTexts(part, at, depth + 1);
  }
};

const refuse = (code: 'text_invalid' | 'nested_too_deep', field: string): never => {
  throw new Failure([problem(code, {}, field)], 400);
};
