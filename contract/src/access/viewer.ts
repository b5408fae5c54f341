import { z } from 'zod';
import { Id, type Section } from '../time/section';

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
  /** Fields (`pay.amount`) of sections that it gives, which it does not. */
  hides: z.array(z.string().max(130)).optional(),
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

const hiding = new WeakMap<readonly Grant[], ReadonlySet<string>>();

/**
 * Fields (`pay.amount`) that a viewer does not see: those that grants hide, but where one over everything shows them, or all
 * that give their section do.
 */
export const hiddenFields = (grants: readonly Grant[]): ReadonlySet<string> => {
  const known = hiding.get(grants);
  if (known) return known;
  const isSeen = (field: string): boolean => {
    const section = field.slice(0, field.lastIndexOf('.'));
    const giving = grants.filter((grant) => gives(grant, section, 'view'));
    const showing = giving.filter(({ hides }) => !hides?.includes(field));
    return showing.length === giving.length || showing.some(({ scope }) => scope.type === 'all');
  };
  const found = new Set(grants.flatMap(({ hides = [] }) => hides).filter((field) => !isSeen(field)));
  hiding.set(grants, found);
  return found;
};

/** A section with the fields that a viewer sees. */
export const seenSection = (section: Section, grants: readonly Grant[]): Section => {
  const hidden = hiddenFields(grants);
  const isHidden = (field: string) => hidden.has(`${section.name}.${field}`);
  if (hidden.size === 0 || ![...section.metas.keys()].some(isHidden)) return section;
  return { ...section, metas: new Map([...section.metas].filter(([field]) => !isHidden(field))) };
};
