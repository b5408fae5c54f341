import { z } from 'zod';
import { Id } from '../time/section';

/** What must hold of a row, on the days that it tells of, to be covered. Each looks at one thing behind the row. */
export const Condition = z.discriminatedUnion('type', [
  /** In a unit or below it; of the position, or the unit itself. */
  z.strictObject({ type: z.literal('branch'), unitId: Id }),
  /** Reports to whoever looks, directly (over positions that nobody leads) or through others; of the position. */
  z.strictObject({ type: z.literal('reports'), depth: z.enum(['direct', 'all']) }),
  /** Of the employment; of a position that is looked at for itself, the entity it hires into. */
  z.strictObject({ type: z.literal('entity'), legalEntityId: Id }),
  /** Of the position's location that day. */
  z.strictObject({ type: z.literal('country'), country: z.string().regex(/^[A-Z]{2}$/) }),
  /** Of the employment. */
  z.strictObject({ type: z.literal('worker_type'), workerTypeId: Id }),
  /** One's own record. */
  z.strictObject({ type: z.literal('oneself') }),
]);
export type Condition = z.infer<typeof Condition>;
/** A condition of one type. */
export type ConditionOf<T extends Condition['type']> = Extract<Condition, { type: T }>;

/** The part of the register a grant covers: everything, what meets a condition, or what meets several at once. */
export const Scope = z.union([
  z.strictObject({ type: z.literal('all') }),
  Condition,
  z.strictObject({ type: z.literal('every'), of: z.array(Condition).min(2).max(6) }),
]);
export type Scope = z.infer<typeof Scope>;

/** The conditions of a scope, which must all hold; none for everything. */
export const conditionsOf = (scope: Scope): readonly Condition[] =>
  scope.type === 'all' ? [] : scope.type === 'every' ? scope.of : [scope];

/** What holds of each condition, wherever it is compiled. */
export const conditionTraits: {
  [T in Condition['type']]: {
    /** It looks at a place: without one an employment is outside. */
    isPlaced: boolean;
    /** What it leaves of units, of which it is not known who they are of. */
    units: 'its own' | 'all' | 'none';
  };
} = {
  branch: { isPlaced: true, units: 'its own' },
  reports: { isPlaced: true, units: 'all' },
  entity: { isPlaced: false, units: 'all' },
  country: { isPlaced: true, units: 'all' },
  worker_type: { isPlaced: false, units: 'all' },
  oneself: { isPlaced: false, units: 'none' },
};

/** Whether a place decides over people: else an employment is inside whether it has one or not. */
export const isPlaced = (conditions: readonly Condition[]): boolean =>
  conditions.some(({ type }) => conditionTraits[type].isPlaced);

/** Whether nothing of units is left by the conditions. */
export const hasNoUnits = (conditions: readonly Condition[]): boolean =>
  conditions.some(({ type }) => conditionTraits[type].units === 'none');

/** Whether nothing but one's own record is left. */
export const isOneself = (conditions: readonly Condition[]): boolean =>
  conditions.length > 0 && conditions.every(({ type }) => type === 'oneself');
