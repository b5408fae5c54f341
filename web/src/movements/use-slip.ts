// The state of a slip: what is written, what it shows, what is still needed. All of it is the kept movement; nothing else.
import { type Day, type InputField, type Kind, type Named, fieldAt, movementOf } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { usePayInWords } from '../people/pay-in-words';
import { useFormat } from '../texts/format';
import { useShow } from '../ui/field-value';
import type { Field } from '../ui/fields';
import { type Typed, isNumeric, readTyped } from '../ui/typed';
import { valueAt, withValue } from './at-path';
import type { Chosen } from './finder';
import { type LocalMovement, keptMovements } from './kept-movements';
import type { SlipContext, SlipDeclaration, SlipRow } from './slip-declared';
import { type SlipShowing, useSlipShowing } from './slip-showing';
import { useFieldLabel } from './slip-input';

const NO_SHOWING = { register: { rows: () => [] } } as unknown as SlipShowing;

const asField = ({ meta, path }: InputField): Field => ({ ...meta, name: path });

/** What a slip is and does, for the inputs in it. */
export type Slip = ReturnType<typeof useSlip>;

export const useSlip = (movement: LocalMovement, declared: SlipDeclaration) => {
  const { i18n } = useTranslation();
  const format = useFormat();
  const payInWords = usePayInWords();
  const labelOf = useFieldLabel();
  const words = i18n.language === 'de' ? declared.de : declared.en;
  const { kind, input, typed, names } = movement;
  const schema = movementOf(kind);
  const showing = useSlipShowing(declared.reads?.(input) ?? {});
  const show = useShow(showing ?? NO_SHOWING);
  const [aboutKind = '', aboutId = '0'] = movement.about.split(' ');
  const nameOf = (of: Kind, id: number): string =>
    names.find((one) => one.kind === of && one.id === id)?.name ?? showing?.nameOf(of, id) ?? '';
  const fieldOf = (path: string): InputField => {
    const field = fieldAt(schema.input, path);
    if (!field) throw new Error(`slip ${kind}: there is no field ${path}`);
    return field;
  };
  const context: SlipContext | null = showing && {
    about: { kind: aboutKind, id: Number(aboutId) },
    input,
    day: valueAt(input, schema.day.field) as Day | undefined,
    showing,
    named: (path) => {
      const { meta } = fieldOf(path);
      const id = valueAt(input, path);
      return meta.is === 'ref' && typeof id === 'number' ? nameOf(meta.kind, id) : '';
    },
    words,
    format,
    payInWords,
  };
  const currentOf = (path: string): unknown => (context ? declared.current?.(path, context) : undefined);
  const write = (changes: Partial<LocalMovement>) => keptMovements.keep({ ...movement, ...changes });
  const withoutTyped = (path: string) =>
    Object.fromEntries(Object.entries(typed).filter(([key]) => key !== path));
  // what stands already is not written again
  const put = (path: string, value: unknown, more: Partial<LocalMovement> = {}) => {
    const isBack = (value ?? null) === (currentOf(path) ?? null);
    const isGone = value === undefined || (value === null && currentOf(path) === undefined);
    const next = withValue(input, path, isBack || isGone ? undefined : value);
    write({ input: next, typed: withoutTyped(path), ...more });
  };
  const readAt = (path: string): Typed | null => {
    const text = typed[path];
    return text === undefined || text.trim() === ''
      ? null
      : readTyped(asField(fieldOf(path)), text, i18n.language);
  };
  /** Takes what was typed: numbers as they are read, and the text beside them. */
  const type = (path: string, value: unknown) => {
    const field = fieldOf(path);
    if (!isNumeric(asField(field)) || typeof value !== 'string') return put(path, value);
    const read = readTyped(asField(field), value, i18n.language);
    const isRead = !('problem' in read);
    write({
      input: withValue(input, path, isRead ? read.value : undefined),
      typed: { ...typed, [path]: value },
    });
  };
  const choose = (path: string, of: Kind, chosen: Chosen | null) => {
    const named: Named[] = chosen ? [...names, { kind: of, id: chosen.id, name: chosen.name }] : names;
    put(path, chosen?.id ?? null, { names: named });
  };
  const rows = context ? declared.rows(context) : [];
  const more = context ? (declared.more?.(context) ?? []) : [];
  const paths = [...rows, ...more].flat() as string[];
  const isEmpty = (path: string) => {
    const value = valueAt(input, path) ?? currentOf(path);
    return value === undefined || value === null || value === '';
  };
  const unread = paths.filter((path) => {
    const read = readAt(path);
    return read !== null && 'problem' in read;
  });
  const open = paths.filter((path) => fieldOf(path).isNeeded && isEmpty(path) && !unread.includes(path));
  const missing = context
    ? [
        ...[...open, ...unread].map((path) => labelOf(path, words.fields)),
        ...(declared.needs?.(context) ?? []),
      ]
    : [];
  return {
    movement,
    declared,
    words,
    context,
    rows: rows as readonly SlipRow[],
    more: more as readonly SlipRow[],
    firstPath: paths[0],
    missing: [...new Set(missing)],
    fieldOf,
    nameOf,
    valueOf: (path: string): unknown =>
      valueAt(input, path) ?? (valueAt(input, path) === null ? null : currentOf(path)),
    /** Whether a field can be left empty: nothing is an answer, or nothing stands that would come back. */
    mayClear: ({ path, isNeeded, isNullable }: InputField): boolean =>
      isNullable || (!isNeeded && (currentOf(path) ?? null) === null),
    typedOf: (path: string): string | undefined => typed[path],
    labelOf: (path: string) => labelOf(path, words.fields),
    say: (field: InputField, value: unknown): string => show(asField(field), value),
    put,
    type,
    choose,
    /** Words for warnings, by their codes. */
    said: Object.fromEntries(
      Object.entries(typed).flatMap(([key, text]) =>
        key.startsWith('words.') ? [[key.slice(6), text]] : [],
      ),
    ),
    saySo: (code: string, text: string) => write({ typed: { ...typed, [`words.${code}`]: text } }),
    /** What is sent; undefined while it is not yet enough to be looked at. */
    asked: (): Record<string, unknown> | undefined => {
      if (!context || unread.length > 0) return undefined;
      const prepared = declared.prepare?.(input, context) ?? input;
      return schema.input.safeParse(prepared).success ? prepared : undefined;
    },
  };
};
