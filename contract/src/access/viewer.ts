import { z } from 'zod';
import { sectionNames } from '../sections';
import { Id } from '../time/section';

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
]);
export type Act = z.infer<typeof Act>;

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
  sections: z.partialRecord(z.enum(sectionNames as [string, ...string[]]), Level),
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

/** Sections that describe no person and belong to no unit: whoever may view them sees all of them. */
export const referenceSections = [
  'organisation',
  'list_entry',
  'legal_entity',
  'location',
  'cost_centre',
  'grade',
  'grade_range',
  'job',
] as const;

const levels = ['none', 'view', 'propose', 'edit'] as const;

/** Whether a grant gives at least `level` on a section. */
export const gives = (grant: Grant, section: string, level: Level): boolean =>
  levels.indexOf(grant.sections[section] ?? 'none') >= levels.indexOf(level);

const all = (level: Level) => Object.fromEntries(sectionNames.map((name) => [name, level]));

const specialistSections = (): Grant['sections'] => ({
  ...all('edit'),
  ...Object.fromEntries(referenceSections.map((name) => [name, 'view' as const])),
});

/** Presets of grants: a role is one of these, with its scope. */
export const presets = {
  administrator: (): Grant[] => [{ acts: [...Act.options], sections: all('edit'), scope: { type: 'all' } }],
  specialist: (unitId: number): Grant[] => [
    {
      acts: ['hire', 'transfer', 'leave', 'create', 'undo', 'journal', 'mend', 'import'],
      sections: specialistSections(),
      scope: { type: 'branch', unitId },
    },
  ],
  auditor: (): Grant[] => [{ acts: ['journal'], sections: all('view'), scope: { type: 'all' } }],
  manager: (unitId: number): Grant[] => [
    {
      acts: [],
      sections: { ...all('view'), pay: 'none', contract: 'none', person: 'none' },
      scope: { type: 'branch', unitId },
    },
  ],
  crew: (): Grant[] => [
    {
      acts: [],
      sections: {
        organisation: 'view',
        list_entry: 'view',
        location: 'view',
        person: 'view',
        person_name: 'view',
        contact: 'view',
        employment: 'view',
        contract: 'view',
        placement: 'view',
        pay: 'view',
      },
      scope: { type: 'oneself' },
    },
  ],
};
