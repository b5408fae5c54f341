import {
  type InputField,
  type Movement,
  type Problem,
  type Words,
  askedAtHire,
  fieldAt,
  keptIn,
  movementOf,
  problemCodes,
} from '@gremium/contract';
import { problem } from '@gremium/core';
import { catalogueNow } from '../time/catalogue-now';
import type { Field } from '../ui/fields';
import { readTyped } from '../ui/typed';
import { valueAt } from './at-path';
import type { Prepared } from './kept-movements';
import type { SlipContext, SlipDeclaration, SlipRow } from './slip-declared';

/** A field of an input as inputs of sections take one. */
export const asField = ({ meta, path }: InputField): Field => ({ ...meta, name: path });

/** The field of a kind at a path; a slip that names another one is mistaken. */
export const fieldOfKind =
  (kind: Prepared['kind']) =>
  (path: string): InputField => {
    const field = path.startsWith('own.') ? ownFieldAt(path) : fieldAt(movementOf(kind).input, path);
    if (!field) throw new Error(`slip ${kind}: there is no field ${path}`);
    return field;
  };

// An own field that the movement asks for.
const ownFieldAt = (path: string): InputField | undefined => {
  const asked = askedAtHire(catalogueNow().sections).find(({ field }) => `own.${field}` === path);
  return asked && { path, meta: asked.meta, isNeeded: asked.meta.required === true, isNullable: true };
};

type Issue = {
  path: readonly PropertyKey[];
  message: string;
  code?: string | undefined;
  origin?: string;
  maximum?: number | bigint;
};
type Refusal = { issues: readonly Issue[] };

// What does not fit its field, by the field; what is only missing is left out.
const refusals = ({ issues }: Refusal, missing: readonly string[]): Problem[] =>
  issues.flatMap(({ path, message, code: what, origin, maximum }) => {
    const field = path.map(String).join('.');
    if (missing.includes(field)) return [];
    if (what === 'too_big' && origin === 'string')
      return problem('text_too_long', { most: Number(maximum) }, field);
    const code = message in problemCodes ? (message as Problem['code']) : 'value_invalid';
    return problem(code, {}, field);
  });

/** What is sent, or why it cannot be yet; what is missing is said elsewhere. */
export type AskedNow = { input?: Record<string, unknown>; problems: Problem[] };

const askedNow = (
  { input: schema }: Movement,
  prepared: Record<string, unknown>,
  open: readonly string[],
): AskedNow => {
  const { success, error } = schema.safeParse(prepared);
  return success ? { input: prepared, problems: [] } : { problems: refusals(error, open) };
};

// A row of a slip without what is hidden from whoever writes it.
const shownRow = (row: SlipRow, isHidden: (path: string) => boolean): SlipRow[] => {
  const left = (Array.isArray(row) ? row : [row]).filter((path: string) => !isHidden(path)) as string[];
  const [first, second] = left;
  if (first === undefined) return [];
  return [second === undefined ? first : [first, second]];
};

type Reading = {
  movement: Prepared;
  declared: SlipDeclaration;
  context: SlipContext;
  currentOf: (path: string) => unknown;
  labelOf: (path: string) => string;
  language: string;
};

/** What a slip shows and still needs, of what is written. */
export const readSlip = ({ movement, declared, context, currentOf, labelOf, language }: Reading) => {
  const { kind, input, typed } = movement;
  const fieldOf = fieldOfKind(kind);
  const [rows, more] = [declared.rows(context), declared.more?.(context) ?? []].map((all) =>
    all.flatMap((row) =>
      shownRow(row, (path) => keptIn(kind, path).some((field) => context.hidden.has(field))),
    ),
  );
  const paths = [...(rows ?? []), ...(more ?? [])].flat() as string[];
  const isUnread = (path: string): boolean => {
    const text = typed[path]?.trim() ?? '';
    return text !== '' && 'problem' in readTyped(asField(fieldOf(path)), text, language);
  };
  const isEmpty = (path: string) =>
    ['', null].includes((valueAt(input, path) ?? currentOf(path) ?? null) as never);
  const unread = paths.filter(isUnread);
  const open = paths.filter((path) => fieldOf(path).isNeeded && isEmpty(path) && !unread.includes(path));
  const missing = [...[...open, ...unread].map(labelOf), ...(declared.needs?.(context) ?? [])];
  return {
    rows: rows ?? [],
    more: more ?? [],
    firstPath: paths[0],
    missing: [...new Set(missing)],
    asked:
      unread.length > 0
        ? { problems: [] }
        : askedNow(movementOf(kind), declared.prepare?.(input, context) ?? input, open),
  };
};

/** What has to be so before it is recorded: a line each. */
export const conditionsIn = ({ typed }: Pick<Prepared, 'typed'>): string[] =>
  (typed['conditions'] ?? '')
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .slice(0, 10);

/** Words for warnings, as they were typed. */
export const wordsIn = ({ typed }: Pick<Prepared, 'typed'>): Words =>
  Object.fromEntries(
    Object.entries(typed).flatMap(([key, text]) => (key.startsWith('words.') ? [[key.slice(6), text]] : [])),
  );
