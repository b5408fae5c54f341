// Values inside an input by their path ("pay.0.amount"): read, and written without touching what is there.

type Inner = Record<string, unknown> | unknown[];

const isInner = (value: unknown): value is Inner => typeof value === 'object' && value !== null;

/** What stands at a path; undefined where nothing does. */
export const valueAt = (input: unknown, path: string): unknown =>
  path
    .split('.')
    .reduce<unknown>((at, step) => (isInner(at) ? (at as Record<string, unknown>)[step] : undefined), input);

/** The input with another value at a path; undefined takes it away, with what is then empty around it. */
export const withValue = <T>(input: T, path: string, value: unknown): T =>
  (written(input, path.split('.'), value) ?? {}) as T;

const written = (at: unknown, [step, ...rest]: string[], value: unknown): unknown => {
  if (step === undefined) return value;
  const isList = Array.isArray(at) || (at === undefined && /^\d+$/.test(step));
  const inner = written((at as Record<string, unknown> | undefined)?.[step], rest, value);
  if (isList) {
    const list = [...((at as unknown[] | undefined) ?? [])];
    if (inner === undefined) list.splice(Number(step), 1);
    else list[Number(step)] = inner;
    return list.length > 0 ? list : undefined;
  }
  const { [step]: _, ...others } = (at ?? {}) as Record<string, unknown>;
  const next = inner === undefined ? others : { ...others, [step]: inner };
  return Object.keys(next).length > 0 ? next : undefined;
};
