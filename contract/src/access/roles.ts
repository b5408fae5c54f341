// Roles: what an account may do, said of sections as they are now and as they will be. Grants are worked out of them at each
// request, so that a section added later is seen by whoever sees all.
import { z } from 'zod';
import { type Catalogue, preset } from '../catalogue';
import { recordSections } from '../people/records';
import type { PresetName } from '../sections';
import type { Given } from '../time/section';
import { Scope } from './scope';
import { Act, type Grant, Level } from './viewer';

/** The roles that an account can have. */
export const RoleName = z.enum(['administrator', 'specialist', 'auditor', 'manager', 'crew']);
export type RoleName = z.infer<typeof RoleName>;

/** A role of an account: within a scope, and what it is given beside the role. */
export const AccountRole = z.strictObject({
  role: RoleName,
  scope: Scope,
  /** Sections named for this account: sensitive ones, or another level. */
  also: z.record(z.string().max(60), Level).optional(),
});
export type AccountRole = z.infer<typeof AccountRole>;

type Rule = {
  acts: readonly Act[];
  /** On every section, also of those to come; not on sensitive ones. */
  all?: Level;
  /** On what describes no person and belongs to no unit. */
  references?: Level;
  named?: { [S in PresetName]?: Level };
};

// What else somebody sees of themselves.
const OF_ONESELF: Rule['named'] = Object.fromEntries(
  Object.values(recordSections).flatMap(({ name, sensitive }) => (sensitive ? [] : [[name, 'view']])),
);

/** What each role may do. */
export const roleRules: Record<RoleName, Rule> = {
  administrator: { acts: Act.options, all: 'edit' },
  specialist: {
    acts: ['hire', 'transfer', 'leave', 'create', 'undo', 'journal', 'mend', 'import'],
    all: 'edit',
    references: 'view',
    // who records honours is given that by name
    named: { award: 'view' },
  },
  auditor: { acts: ['journal'], all: 'view' },
  manager: {
    acts: [],
    all: 'view',
    named: {
      pay: 'none',
      contract: 'none',
      person: 'none',
      dependant: 'none',
      one_off_payment: 'none',
      benefit: 'none',
      payroll_number: 'none',
      postal_address: 'none',
      // contracts and the like say what they are paid
      document: 'none',
    },
  },
  crew: {
    acts: [],
    named: {
      organisation: 'view',
      list_entry: 'view',
      location: 'view',
      person: 'view',
      person_name: 'view',
      person_photo: 'view',
      contact: 'view',
      employment: 'view',
      contract: 'view',
      placement: 'view',
      pay: 'view',
      ...OF_ONESELF,
      // told by nobody but themselves
      declared_fact: 'edit',
    },
  },
};

// What a section says of roles for itself: whoever records in it sees it; what it leaves open is as the role has everything.
const levelGiven = ({ see, edit }: Given, role: RoleName, general: Level | undefined): Level | undefined => {
  if (edit?.includes(role)) return 'edit';
  const isSeen = see ? see.includes(role) : general !== undefined && general !== 'none';
  if (!isSeen) return undefined;
  return edit === null && general !== undefined ? general : 'view';
};

const grantOf = ({ role, scope, also = {} }: AccountRole, catalogue: Catalogue): Grant => {
  const { acts, all, references, named = {} } = roleRules[role];
  const sections: Grant['sections'] = {};
  for (const { name, sensitive, given } of catalogue.sections) {
    const isReference = references !== undefined && catalogue.isReference(name as PresetName);
    const general = sensitive ? undefined : isReference ? references : all;
    const level =
      also[name] ?? (given ? levelGiven(given, role, general) : (named[name as PresetName] ?? general));
    if (level !== undefined) sections[name] = level;
  }
  const hides = hiddenIn(catalogue, role, (name) => (sections[name] ?? 'none') !== 'none');
  return { acts: [...acts], sections, scope, ...(hides.length > 0 ? { hides } : {}) };
};

// What the organisation hides from a role: a field itself, or the section under which it is shown.
const hiddenIn = (catalogue: Catalogue, role: RoleName, sees: (section: string) => boolean): string[] =>
  catalogue.sections.flatMap(({ name, metas }) =>
    sees(name)
      ? [...metas].flatMap(([field, { hiddenFrom, shownIn }]) =>
          hiddenFrom?.includes(role) || (shownIn !== undefined && !sees(shownIn)) ? `${name}.${field}` : [],
        )
      : [],
  );

/** What an account may do by the catalogue of now: its roles, and what was granted to it alone. */
export const grantsOf = (
  { roles, grants }: { roles: readonly AccountRole[]; grants: readonly Grant[] },
  catalogue: Catalogue,
): Grant[] => [...roles.map((role) => grantOf(role, catalogue)), ...grants];

const everywhere = { type: 'all' } as const;

/** The grants of each role over the preset catalogue. */
export const presets = {
  administrator: (): Grant[] => [grantOf({ role: 'administrator', scope: everywhere }, preset)],
  specialist: (unitId: number): Grant[] => [
    grantOf({ role: 'specialist', scope: { type: 'branch', unitId } }, preset),
  ],
  auditor: (): Grant[] => [grantOf({ role: 'auditor', scope: everywhere }, preset)],
  manager: (unitId: number): Grant[] => [
    grantOf({ role: 'manager', scope: { type: 'branch', unitId } }, preset),
  ],
  crew: (): Grant[] => [grantOf({ role: 'crew', scope: { type: 'oneself' } }, preset)],
};
