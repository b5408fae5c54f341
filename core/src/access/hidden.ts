// Fields that are hidden from a viewer, taken out of an answer.
import type { Viewer } from '@gremium/contract';
import { hiddenFields } from '@gremium/contract';

type Said = Record<string, unknown>;
const isObject = (value: unknown): value is Said => typeof value === 'object' && value !== null;

// What holds the values of a row: a row's own, and those it had before and after a correction.
const VALUES = ['values', 'before', 'after'];

const stripped = (answer: unknown, section: string | null, hidden: ReadonlySet<string>): unknown => {
  if (Array.isArray(answer)) {
    const parts = answer
      .filter((part) => !isOfHidden(part, hidden))
      .map((part) => stripped(part, section, hidden));
    return parts.length < answer.length || parts.some((part, i) => part !== answer[i]) ? parts : answer;
  }
  if (!isObject(answer) || Object.getPrototypeOf(answer) !== Object.prototype) return answer;
  const own = typeof answer['section'] === 'string' ? answer['section'] : section;
  let changed: Said | null = null;
  for (const [name, value] of Object.entries(answer)) {
    if (!isObject(value)) continue;
    const isValues = own !== null && VALUES.includes(name) && !Array.isArray(value);
    const left = isValues ? withoutFields(value, own, hidden) : stripped(value, own, hidden);
    if (left !== value) changed = { ...(changed ?? answer), [name]: left };
  }
  return changed ?? answer;
};

// A change of one field (`{ section, field }`).
const isOfHidden = (part: unknown, hidden: ReadonlySet<string>): boolean =>
  isObject(part) && hidden.has(`${String(part['section'])}.${String(part['field'])}`);

const withoutFields = (values: Said, section: string, hidden: ReadonlySet<string>): Said => {
  const left = Object.entries(values).filter(([field]) => !hidden.has(`${section}.${field}`));
  return left.length === Object.keys(values).length ? values : Object.fromEntries(left);
};

/** An answer without the fields that are hidden from the viewer, in whatever rows (`{ section, values }`) it holds. */
export const withoutHidden = <A>(answer: A, { grants }: Pick<Viewer, 'grants'>): A => {
  const hidden = hiddenFields(grants);
  return hidden.size === 0 ? answer : (stripped(answer, null, hidden) as A);
};
