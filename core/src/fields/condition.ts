// Conditions in CEL, the open Common Expression Language: read by a library, checked against the fields of a subject, compiled
// to closures over the columns. Three-valued: what compares with a blank is no value, which is neither true nor an error.
import { parse } from '@marcbachmann/cel-js';
import type { ProblemCode } from '@gremium/contract';
import { type Fraction, exceeds, fraction, minus, plus, times } from '../structure/fraction';
import { addDays, completedMonths, completedYears, daysBetween } from '../time/calendar';
import { fold } from '../people/names';
import { decimal } from '../people/yearly';
import type { Cursor } from './cursor';
import type { ReportField, Value } from './field';

/** What is wrong with a condition, and at which sign (counted from 1). */
export class ConditionError extends Error {
  constructor(
    readonly code: ProblemCode,
    readonly params: Record<string, string | number>,
  ) {
    super(`${code} ${JSON.stringify(params)}`);
  }
}

/** A node of the tree: an operator with its parts, and where it begins. */
export type Ast = { op: string; args: unknown; pos?: number; start?: number };

type Kind = 'number' | 'text' | 'day' | 'yes_no' | 'list';
type Read = (at: Cursor) => unknown;
type Node = { kind: Kind; read: Read; isConstant?: true; field?: ReportField };

/** How things are written in conditions: entries and other things by their codes, people by their numbers. */
export type Coding = { codeOf: (field: ReportField, id: number) => string | null };

/** What a condition is compiled for. */
export type Ground = {
  fields: ReadonlyMap<string, ReportField>;
  coding: Coding;
  on: string;
  today: string;
  /** Strict comparisons taken with their bounds: to find what stands just at one. */
  isInclusive?: boolean;
  /** The section of several rows of which each has a row of its own: its fields are one value then. */
  each?: string | null;
  /** Fields that are not the viewer's: naming one is refused with its section. */
  hidden: (field: ReportField) => string | null;
};

/** The tree of a text. Throws `condition_unread` with the place. */
export const parseCondition = (text: string): Ast => {
  try {
    return (parse(text) as unknown as { ast: Ast }).ast;
  } catch (error) {
    const { message = '', node } = error as { message?: string; node?: Ast };
    const [, column] = /^>?\s*\d+\s*\|[^\n]*\n\s*([ ^]*)/m.exec(message) ?? [];
    const at = node?.pos ?? (column ? column.length : 0);
    throw new ConditionError('condition_unread', { at: at + 1, near: text.slice(Math.max(0, at), at + 12) });
  }
};

const at = ({ pos, start }: Ast): number => (start ?? pos ?? 0) + 1;

/** The id of the field that a node names; undefined where it names none. */
export const fieldIdOf = (ast: Ast): string | undefined => {
  if (ast.op === 'id') return String(ast.args);
  if (ast.op !== '.') return undefined;
  const [of, name] = ast.args as [Ast, string];
  const before = fieldIdOf(of);
  return before === undefined ? undefined : `${before}.${name}`;
};

// Own sections are called own.12 in ids; a name that begins with a digit cannot stand in the language.
const idWritten = (id: string): string => id.replace(/^own\.s(\d+)\./, 'own.$1.');
/** How the id of a field is written in a condition. */
export const writtenId = (id: string): string => id.replace(/^own\.(\d+)\./, 'own.s$1.');

// A condition asks for so much of each row at most, constants aside; and no number in it grows longer than this.
const MOST_NODES = 300;
const MOST_DIGITS = 60;
const LARGEST = 10n ** BigInt(MOST_DIGITS);
// Days that are added are of a calendar.
const MOST_DAYS = 200_000;

const tooLong = (ast: Ast): never => {
  throw new ConditionError('condition_number_long', { at: at(ast), most: MOST_DIGITS });
};

// Numbers of a row are reckoned exactly, and could grow without an end.
const bounded = (value: number | Fraction | null, ast: Ast): number | Fraction | null => {
  if (value === null || typeof value === 'number') return value;
  const { num, den } = value;
  return num > LARGEST || num < -LARGEST || den > LARGEST ? tooLong(ast) : value;
};

const NO_ROW = undefined as unknown as Cursor;
// What hangs on no row is worked out once.
const folded = (node: Node, ...of: readonly (Node | undefined)[]): Node => {
  if (!of.every((one) => one?.isConstant)) return node;
  const value = node.read(NO_ROW);
  return { ...node, read: () => value, isConstant: true };
};

const isFraction = (value: unknown): value is Fraction =>
  typeof value === 'object' && value !== null && 'num' in value;
const exact = (value: number | Fraction): Fraction =>
  isFraction(value) ? value : Number.isInteger(value) ? fraction(value) : decimalOf(value);
// Of a number with a point, which may be written with an exponent (1e-7).
const decimalOf = (value: number): Fraction => {
  const [digits = '0', exponent = '0'] = String(Math.abs(value)).split('e');
  const read = decimal(digits);
  const power = 10n ** BigInt(Math.abs(Number(exponent)));
  const whole = exponent.startsWith('-')
    ? fraction(read.num, read.den * power)
    : fraction(read.num * power, read.den);
  return value < 0 ? fraction(-whole.num, whole.den) : whole;
};
const compareNumbers = (a: number | Fraction, b: number | Fraction): number => {
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  const [x, y] = [exact(a), exact(b)];
  return exceeds(x, y) ? 1 : exceeds(y, x) ? -1 : 0;
};

const KINDS: Record<ReportField['kind'], Kind> = {
  text: 'text',
  number: 'number',
  hundredths: 'number',
  exact: 'number',
  day: 'day',
  yes_no: 'yes_no',
  choice: 'text',
  entry: 'text',
  entries: 'list',
  thing: 'text',
};

const coded = (field: ReportField, value: Value, coding: Coding): unknown => {
  if (value === null) return null;
  if (field.kind === 'hundredths')
    return (value as number) % 100 === 0 ? (value as number) / 100 : fraction(value as number, 100);
  if (field.kind === 'entry' || field.kind === 'thing') return coding.codeOf(field, value as number);
  if (field.kind === 'entries') return (value as number[]).map((id) => coding.codeOf(field, id));
  return value;
};

const expected = (ast: Ast, what: string): never => {
  throw new ConditionError('condition_type', { at: at(ast), expected: what });
};

class Compiler {
  constructor(
    private readonly ground: Ground,
    // shared with what is compiled inside
    private readonly count = { nodes: 0 },
  ) {}

  node(ast: Ast): Node {
    const node = this.compiled(ast);
    if (!node.isConstant && ++this.count.nodes > MOST_NODES)
      throw new ConditionError('condition_too_much', { most: MOST_NODES });
    return node;
  }

  private compiled(ast: Ast): Node {
    const id = fieldIdOf(ast);
    if (id !== undefined) return this.named(ast, idWritten(id));
    const { op, args } = ast;
    if (op === 'value') return this.constant(ast, args);
    if (op === 'list') return this.list(args as Ast[]);
    if (op === '&&' || op === '||') return this.logic(op, args as [Ast, Ast]);
    if (op === '!_') return this.not(args as Ast);
    if (op === '-_') return this.negative(args as Ast);
    if (['==', '!=', '<', '<=', '>', '>='].includes(op)) return this.comparison(op, args as [Ast, Ast]);
    if (op === 'in') return this.within(ast, args as [Ast, Ast]);
    if (['+', '-', '*', '/'].includes(op)) return this.arithmetic(ast, op, args as [Ast, Ast]);
    if (op === '?:') return this.choice(args as [Ast, Ast, Ast]);
    if (op === 'call') return this.call(ast, ...(args as [string, Ast[]]));
    if (op === 'rcall') return this.method(ast, ...(args as [string, Ast, Ast[]]));
    throw new ConditionError('condition_unread', { at: at(ast), near: op });
  }

  truth(ast: Ast): (at: Cursor) => boolean | null {
    const { kind, read } = this.node(ast);
    if (kind !== 'yes_no') expected(ast, 'yes_no');
    return read as (at: Cursor) => boolean | null;
  }

  private named(ast: Ast, id: string): Node {
    const { on, today, fields, coding, hidden } = this.ground;
    if (id === 'on' || id === 'today') {
      const day = id === 'on' ? on : today;
      return { kind: 'day', read: () => day, isConstant: true };
    }
    const field = fields.get(id);
    if (!field) throw new ConditionError('field_unknown', { at: at(ast), field: id });
    const section = hidden(field);
    if (section !== null) throw new ConditionError('field_hidden', { at: at(ast), section });
    const kind = KINDS[field.kind];
    if (field.isSeveral && field.readAll && field.section !== this.ground.each) {
      const { readAll } = field;
      return {
        kind: 'list',
        field,
        read: (row) => readAll(row).flatMap((value) => coded(field, value, coding) ?? []),
      };
    }
    // however often it is named, it is read once a row
    let known: { step: number; value: unknown } = { step: -1, value: null };
    return {
      kind,
      field,
      read: (row) => {
        if (known.step !== row.at) known = { step: row.at, value: coded(field, field.read(row), coding) };
        return known.value;
      },
    };
  }

  private constant(ast: Ast, value: unknown): Node {
    if (typeof value === 'bigint') return this.constant(ast, Number(value));
    if (typeof value === 'number') {
      if (!Number.isFinite(value) || (value !== 0 && Math.abs(Math.log10(Math.abs(value))) > MOST_DIGITS / 2))
        return tooLong(ast);
      const number = Number.isSafeInteger(value) ? value : decimalOf(value);
      return { kind: 'number', read: () => number, isConstant: true };
    }
    if (typeof value === 'string') return { kind: 'text', read: () => value, isConstant: true };
    if (typeof value === 'boolean') return { kind: 'yes_no', read: () => value, isConstant: true };
    return expected(ast, 'value');
  }

  private list(args: Ast[]): Node {
    const parts = args.map((one) => this.node(one));
    return folded({ kind: 'list', read: (row) => parts.map(({ read }) => read(row)) }, ...parts);
  }

  private logic(op: string, [left, right]: [Ast, Ast]): Node {
    const [a, b] = [this.truth(left), this.truth(right)];
    const decides = op === '||';
    return {
      kind: 'yes_no',
      read: (row) => {
        const first = a(row);
        if (first === decides) return decides;
        const second = b(row);
        if (second === decides) return decides;
        return first === null || second === null ? null : !decides;
      },
    };
  }

  private not(arg: Ast): Node {
    // the other side of a bound is what is asked then, so that it is taken as it is written
    const { isInclusive: _, ...ground } = this.ground;
    const a = new Compiler(ground, this.count).truth(arg);
    return {
      kind: 'yes_no',
      read: (row) => {
        const value = a(row);
        return value === null ? null : !value;
      },
    };
  }

  private negative(arg: Ast): Node {
    const of = this.node(arg);
    if (of.kind !== 'number') expected(arg, 'number');
    const negated = (row: Cursor) => {
      const value = of.read(row) as number | Fraction | null;
      return value === null ? null : typeof value === 'number' ? -value : fraction(-value.num, value.den);
    };
    return folded({ kind: 'number', read: negated }, of);
  }

  private comparison(op: string, [left, right]: [Ast, Ast]): Node {
    const [a, b] = [this.node(left), this.node(right)];
    const { isInclusive } = this.ground;
    const pair = (x: unknown, y: unknown): boolean | null => {
      if (x === null || y === null || x === undefined || y === undefined) return null;
      const order =
        a.kind === 'number'
          ? compareNumbers(x as number, y as number)
          : x === y
            ? 0
            : (x as string) < (y as string)
              ? -1
              : 1;
      if (op === '==') return order === 0;
      if (op === '!=') return order !== 0;
      if (op === '<') return isInclusive ? order <= 0 : order < 0;
      if (op === '<=') return order <= 0;
      return op === '>' && !isInclusive ? order > 0 : order >= 0;
    };
    // of several rows any one may match; without one there is no value
    if (a.kind === 'list' && a.field) {
      return {
        kind: 'yes_no',
        read: (row) => {
          const all = a.read(row) as unknown[] | null;
          if (all === null || all.length === 0) return null;
          const other = b.read(row);
          return all.some((one) => pairOf(a.field as ReportField, one, other, pair));
        },
      };
    }
    if (a.kind !== b.kind) expected(right, a.kind);
    if (a.kind === 'list') expected(left, 'value');
    if (a.kind === 'yes_no' && op !== '==' && op !== '!=') expected(left, 'number');
    return folded({ kind: 'yes_no', read: (row) => pair(a.read(row), b.read(row)) }, a, b);
  }

  private within(ast: Ast, [left, right]: [Ast, Ast]): Node {
    const [a, b] = [this.node(left), this.node(right)];
    if (b.kind !== 'list') expected(right, 'list');
    void ast;
    const texts = b.isConstant && a.kind !== 'number' ? new Set(b.read(NO_ROW) as unknown[]) : null;
    if (texts)
      return {
        kind: 'yes_no',
        read: (row) => {
          const value = a.read(row);
          if (value === null) return null;
          if (!Array.isArray(value)) return texts.has(value);
          return value.length === 0 ? null : value.some((one) => texts.has(one));
        },
      };
    return {
      kind: 'yes_no',
      read: (row) => {
        const value = a.read(row);
        const all = b.read(row) as unknown[] | null;
        if (value === null || all === null) return null;
        if (Array.isArray(value)) return value.length === 0 ? null : value.some((one) => all.includes(one));
        return all.some((one) =>
          a.kind === 'number' && one !== null
            ? compareNumbers(value as number, one as number) === 0
            : one === value,
        );
      },
    };
  }

  private arithmetic(ast: Ast, op: string, [left, right]: [Ast, Ast]): Node {
    const [a, b] = [this.node(left), this.node(right)];
    if (a.kind === 'day' && b.kind === 'number' && (op === '+' || op === '-')) {
      return {
        kind: 'day',
        read: (row) => {
          const [day, days] = [a.read(row) as string | null, b.read(row) as number | null];
          return day === null || typeof days !== 'number' || !(Math.abs(days) <= MOST_DAYS)
            ? null
            : addDays(day as never, op === '+' ? days : -days);
        },
      };
    }
    if (a.kind === 'text' && b.kind === 'text' && op === '+')
      return folded(
        {
          kind: 'text',
          read: (row) => {
            const [x, y] = [a.read(row), b.read(row)];
            return x === null || y === null ? null : String(x) + String(y);
          },
        },
        a,
        b,
      );
    if (a.kind !== 'number') expected(left, 'number');
    if (b.kind !== 'number') expected(right, 'number');
    const reckoned = (row: Cursor) => {
      const [x, y] = [a.read(row), b.read(row)] as (number | Fraction | null)[];
      if (x === null || y === null || x === undefined || y === undefined) return null;
      return bounded(calculated(op, x, y), ast);
    };
    return folded({ kind: 'number', read: reckoned }, a, b);
  }

  private choice([condition, yes, no]: [Ast, Ast, Ast]): Node {
    const when = this.truth(condition);
    const [a, b] = [this.node(yes), this.node(no)];
    if (a.kind !== b.kind) expected(no, a.kind);
    return {
      kind: a.kind,
      read: (row) => {
        const value = when(row);
        return value === null ? null : value ? a.read(row) : b.read(row);
      },
    };
  }

  private call(ast: Ast, name: string, args: Ast[]): Node {
    const parts = args.map((one) => this.node(one));
    const [first, second] = parts;
    if (name === 'day' && args.length === 1 && first?.kind === 'text' && first.isConstant) {
      const day = String(first.read(undefined as never));
      if (!/^(19|20|21)\d\d-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/.test(day))
        expected(args[0] as Ast, 'day');
      return { kind: 'day', read: () => day, isConstant: true };
    }
    if (name === 'blank' && args.length === 1 && first)
      return {
        kind: 'yes_no',
        read: (row) => {
          const value = first.read(row);
          return value === null || (Array.isArray(value) && value.length === 0);
        },
      };
    if (['days', 'months', 'years'].includes(name) && first?.kind === 'day' && second?.kind === 'day')
      return {
        kind: 'number',
        read: (row) => {
          const [from, until] = [first.read(row), second.read(row)] as (string | null)[];
          if (from === null || until === null || from === undefined || until === undefined) return null;
          return SPANS[name as 'days'](from as never, until as never);
        },
      };
    if (name === 'size' && first?.kind === 'list')
      return { kind: 'number', read: (row) => (first.read(row) as unknown[] | null)?.length ?? 0 };
    throw new ConditionError('condition_function', { at: at(ast), name });
  }

  private method(ast: Ast, name: string, of: Ast, args: Ast[]): Node {
    const [a, b] = [this.node(of), args[0] && this.node(args[0])];
    const test = Object.hasOwn(METHODS, name) ? METHODS[name] : undefined;
    if (!test || !b) throw new ConditionError('condition_function', { at: at(ast), name });
    if (b.kind !== 'text') expected(args[0] as Ast, 'text');
    if (a.kind !== 'text' && a.kind !== 'list') expected(of, 'text');
    // accents and case aside; each text folded once
    const plain = new Map<unknown, string>();
    const said = (value: unknown): string => {
      const known = plain.get(value);
      if (known !== undefined) return known;
      const made = fold(String(value));
      plain.set(value, made);
      return made;
    };
    return {
      kind: 'yes_no',
      read: (row) => {
        const [value, wanted] = [a.read(row), b.read(row)];
        if (value === null || wanted === null) return null;
        if (Array.isArray(value))
          return value.length === 0 ? null : value.some((one) => test(said(one), said(wanted)));
        return test(said(value), said(wanted));
      },
    };
  }
}

const METHODS: Record<string, (text: string, wanted: string) => boolean> = {
  contains: (text, wanted) => text.includes(wanted),
  startsWith: (text, wanted) => text.startsWith(wanted),
  endsWith: (text, wanted) => text.endsWith(wanted),
};
const SPANS = { days: daysBetween, months: completedMonths, years: completedYears };

const pairOf = (
  field: ReportField,
  one: unknown,
  other: unknown,
  pair: (x: unknown, y: unknown) => boolean | null,
): boolean => {
  if (KINDS[field.kind] === 'number' && one !== null && other !== null) {
    const order = compareNumbers(one as number, other as number);
    return pair(order, 0) === true;
  }
  return pair(one, other) === true;
};

const calculated = (op: string, x: number | Fraction, y: number | Fraction): number | Fraction | null => {
  if (typeof x === 'number' && typeof y === 'number' && op !== '/') {
    const plain = op === '+' ? x + y : op === '-' ? x - y : x * y;
    if (Number.isSafeInteger(plain)) return plain;
  }
  const [a, b] = [exact(x), exact(y)];
  if (op === '+') return plus(a, b);
  if (op === '-') return minus(a, b);
  if (op === '*') return times(a, b);
  if (b.num === 0n) return null;
  const sign = b.num < 0n ? -1n : 1n;
  return fraction(a.num * b.den * sign, a.den * b.num * sign);
};

/** Whether a row matches: yes, no, or no value. Throws `ConditionError` where the text or what it names is wrong. */
export const compileCondition = (text: string, ground: Ground): ((at: Cursor) => boolean | null) => {
  if (text.trim() === '') return () => true;
  const tree = parseCondition(text);
  try {
    return new Compiler(ground).truth(tree);
  } catch (error) {
    // nested deeper than any calculation goes
    if (error instanceof RangeError) throw new ConditionError('condition_too_much', { most: MOST_NODES });
    throw error;
  }
};
