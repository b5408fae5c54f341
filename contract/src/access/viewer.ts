import { z } from 'zod';
import { Id } from '../time/section';

/** What somebody may do beside seeing and changing sections. */
export const Act = z.enum([
  'hire',
  'transfer',
  'leave',
  'create',
  'undo',
  'journal',
  'access',
  'mend',
  'import',
  'above_limit',
  'declared_figures',
]);
export type Act = z.infer<typeof Act>;

/** What somebody may do with a section, each level with those before it. */
export const Level = z.enum(['none', 'view', 'propose', 'edit']);
export type Level = z.infer<typeof Level>;

/** The part of the register a grant covers: everything, a unit and all below it, or one's own record. */
export const Scope = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('all') }),
  z.strictObject({ type: z.literal('branch'), unitId: Id }),
  z.strictObject({ type: z.literal('oneself') }),
]);
export type Scope = z.infer<typeof Scope>;

/** Some acts and sections within a scope. Sections not named are `none`. */
export const Grant = z.strictObject({
  acts: z.array(Act),
  sections: z.record(z.string().max(60), Level),
  scope: Scope,
});
export type Grant = z.infer<typeof Grant>;

/** Who is looking: an account and what it was granted. */
export const Viewer = z.object({
  account: z.int(),
  email: z.string(),
  name: z.string(),
  language: z.enum(['en', 'de']),
  personId: Id.nullable(),
  grants: z.array(Grant),
});
export type Viewer = z.infer<typeof Viewer>;

const levels = ['none', 'view', 'propose', 'edit'] as const;

/** Whether a grant gives at least `level` on a section. */
export const gives = (grant: Grant, section: string, level: Level): boolean =>
  levels.indexOf(grant.sections[section] ?? 'none') >= levels.indexOf(level);

/** The highest level that grants give on a section, anywhere. */
export const levelOn = (grants: readonly Grant[], section: string): Level =>
  levels[Math.max(0, ...grants.map((grant) => levels.indexOf(grant.sections[section] ?? 'none')))] ?? 'none';
