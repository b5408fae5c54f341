// A condition that is built by picking: field, comparison, value, joined by and or by or. Written as CEL, and read back from it.
import { type Ast, fieldIdOf, parseCondition, writtenId } from './condition';

/** How a field is compared. */
export const comparisons = [
  'is',
  'is_not',
  'above',
  'from',
  'below',
  'to',
  'contains',
  'one_of',
  'blank',
  'given',
] as const;
export type Comparison = (typeof comparisons)[number];

/** A value as it is written: text, number, yes or no; a day as text, or `on` or `today` with days added. */
export type Operand = string | number | boolean | { day: string };

/** One comparison of a field. */
export type ConditionPart = { field: string; by: Comparison; values: Operand[] };

/** Comparisons joined by and (`all`), or by or. */
export type Simple = { all: boolean; parts: ConditionPart[] };

const OPS: Partial<Record<Comparison, string>> = {
  is: '==',
  is_not: '!=',
  above: '>',
  from: '>=',
  below: '<',
  to: '<=',
};

const written = (value: Operand): string => {
  if (typeof value === 'object') {
    const [, base, days] = /^(on|today)(?:([+-]\d+))?$/.exec(value.day) ?? [];
    if (!base) return `day(${JSON.stringify(value.day)})`;
    return days ? `${base} ${days[0]} ${days.slice(1)}` : base;
  }
  return typeof value === 'string' ? JSON.stringify(value) : String(value);
};

/** A comparison as text. */
export const partText = ({ field, by, values }: ConditionPart): string => {
  const id = writtenId(field);
  if (by === 'blank') return `blank(${id})`;
  if (by === 'given') return `!blank(${id})`;
  if (by === 'contains') return `${id}.contains(${written(values[0] ?? '')})`;
  if (by === 'one_of') return `${id} in [${values.map(written).join(', ')}]`;
  return `${id} ${OPS[by] ?? '=='} ${written(values[0] ?? '')}`;
};

/** The text of picked comparisons; empty where there is none. */
export const simpleText = ({ all, parts }: Simple): string => parts.map(partText).join(all ? ' && ' : ' || ');

const operandOf = (ast: Ast): Operand | undefined => {
  const { op, args } = ast;
  if (op === 'value') {
    if (typeof args === 'bigint') return Number(args);
    return typeof args === 'string' || typeof args === 'number' || typeof args === 'boolean'
      ? args
      : undefined;
  }
  if (op === '-_') {
    const inner = operandOf(args as Ast);
    return typeof inner === 'number' ? -inner : undefined;
  }
  if (op === 'id' && (args === 'on' || args === 'today')) return { day: String(args) };
  if (op === 'call') {
    const [name, [first]] = args as [string, Ast[]];
    return name === 'day' && first?.op === 'value' ? { day: String(first.args) } : undefined;
  }
  if (op === '+' || op === '-') {
    const [left, right] = (args as [Ast, Ast]).map(operandOf);
    if (typeof left === 'object' && typeof right === 'number') return { day: `${left.day}${op}${right}` };
  }
  return undefined;
};

const partOf = (ast: Ast): ConditionPart | undefined => {
  const { op, args } = ast;
  const by = (Object.keys(OPS) as Comparison[]).find((one) => OPS[one] === op);
  const named = (one: Ast) => fieldIdOf(one)?.replace(/^own\.s(\d+)\./, 'own.$1.');
  if (by) {
    const [left, right] = args as [Ast, Ast];
    const [field, value] = [named(left), operandOf(right)];
    return field?.includes('.') && value !== undefined ? { field, by, values: [value] } : undefined;
  }
  if (op === 'in') {
    const [left, right] = args as [Ast, Ast];
    const field = named(left);
    const values = right.op === 'list' ? (right.args as Ast[]).map(operandOf) : [];
    if (!field || values.length === 0 || values.some((one) => one === undefined)) return undefined;
    return { field, by: 'one_of', values: values as Operand[] };
  }
  if (op === 'rcall') {
    const [name, of, [first]] = args as [string, Ast, Ast[]];
    const [field, value] = [named(of), first && operandOf(first)];
    return name === 'contains' && field && value !== undefined
      ? { field, by: 'contains', values: [value] }
      : undefined;
  }
  const inner = op === '!_' ? (args as Ast) : ast;
  if (inner.op !== 'call') return undefined;
  const [name, [first]] = inner.args as [string, Ast[]];
  const field = first && named(first);
  return name === 'blank' && field ? { field, by: op === '!_' ? 'given' : 'blank', values: [] } : undefined;
};

/** A text as picked comparisons; null where it is more than that, and stays a text. Throws where it cannot be read. */
export const simpleOf = (text: string): Simple | null => {
  if (text.trim() === '') return { all: true, parts: [] };
  const ast = parseCondition(text);
  const join = ast.op === '||' ? '||' : '&&';
  const parts: (ConditionPart | undefined)[] = [];
  const walk = (one: Ast): void => {
    if (one.op === join) (one.args as [Ast, Ast]).forEach(walk);
    else parts.push(partOf(one));
  };
  walk(ast);
  return parts.every((part) => part !== undefined)
    ? { all: join === '&&', parts: parts as ConditionPart[] }
    : null;
};
