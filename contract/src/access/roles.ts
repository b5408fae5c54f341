// Roles: what an account may do, said of sections as they are now and as they will be. Grants are worked out of them at each
// request, so that a section added later is seen by whoever sees all.
import { z } from 'zod';
import { type Catalogue, preset } from '../catalogue';
import { recordSections } from '../people/records';
import type { PresetName } from '../sections';
import type { Given } from '../time/section';
import { Scope } from './scope';
import { Day } from '../time/day';
import { RoleCode } from './role-section';
import { Act, type Grant, Level } from './viewer';

/** The roles that ship. */
export const RoleName = z.enum(['administrator', 'specialist', 'auditor', 'manager', 'crew']);
export type RoleName = z.infer<typeof RoleName>;

/** A role as it is given to an account: within a scope, from a day to a day, and what is given beside it. */
export const AccountRole = z.strictObject({
  role: RoleCode,
  scope: Scope,
  /** Sections named for this account: sensitive ones, or another level. */
  also: z.record(z.string().max(60), Level).optional(),
  /** Its first day; left out: it holds already. */
  from: Day.optional(),
  /** Its last day; left out: it goes on. */
  lastDay: Day.optional(),
});
export type AccountRole = z.infer<typeof AccountRole>;

/** What a role gives. */
export type RoleRule = {
  acts: readonly Act[];
  /** On every section, also of those to come; not on sensitive ones. */
  all?: Level;
  /** On what describes no person and belongs to no unit. */
  references?: Level;
  named?: Readonly<Record<string, Level>>;
  /** Sections whose past follows who is inside today. */
  follows?: readonly string[];
  /** Fields (`pay.amount`) that it does not show. */
  hides?: readonly string[];
};

// What else somebody sees of themselves.
const OF_ONESELF: RoleRule['named'] = Object.fromEntries(
  Object.values(recordSections).flatMap(({ name, sensitive }) => (sensitive ? [] : [[name, 'view']])),
);

/** What each role may do. */
export const roleRules: Record<RoleName, RoleRule> = {
  administrator: { acts: Act.options, all: 'edit' },
  specialist: {
    acts: ['hire', 'transfer', 'leave', 'create', 'undo', 'journal', 'mend', 'import'],
    all: 'edit',
    references: 'view',
    // who records honours is given that by name; absences are part of what specialists do
    named: { award: 'view', absence: 'edit' },
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
const levelGiven = ({ see, edit }: Given, role: string, general: Level | undefined): Level | undefined => {
  if (edit?.includes(role)) return 'edit';
  const isSeen = see ? see.includes(role) : general !== undefined && general !== 'none';
  if (!isSeen) return undefined;
  return edit === null && general !== undefined ? general : 'view';
};

/** What a role gives; undefined of one that there is not. */
export const ruleOf = (role: string, catalogue: Catalogue): RoleRule | undefined => {
  const own = catalogue.roles.get(role);
  if (!own) return (roleRules as Record<string, RoleRule | undefined>)[role];
  const { acts, rights, others, follows, hides } = own.values;
  return {
    acts: acts ?? [],
    ...(others === 'none' ? {} : { all: others }),
    named: rights,
    ...(follows ? { follows } : {}),
    ...(hides ? { hides } : {}),
  };
};

/** What a role gives, section by section: a preset one and one of the organisation's own alike. */
export const grantOf = ({ role, scope, also = {} }: AccountRole, catalogue: Catalogue): Grant => {
  const rule = ruleOf(role, catalogue);
  if (!rule) return { acts: [], sections: {}, scope };
  const { acts, all, references, named = {}, follows, hides: hidden = [] } = rule;
  const sections: Grant['sections'] = {};
  for (const { name, sensitive, given } of catalogue.sections) {
    const isReference = references !== undefined && catalogue.isReference(name as PresetName);
    const general = sensitive ? undefined : isReference ? references : all;
    const level =
      also[name] ??
      (given && !catalogue.roles.has(role) ? levelGiven(given, role, general) : (named[name] ?? general));
    if (level !== undefined) sections[name] = level;
  }
  const byFields = hiddenIn(catalogue, role, (name) => (sections[name] ?? 'none') !== 'none');
  const hides = [...new Set([...byFields, ...hidden])];
  return {
    acts: [...acts],
    sections,
    scope,
    ...(hides.length > 0 ? { hides } : {}),
    ...(follows ? { follows: [...follows] } : {}),
  };
};

// What the organisation hides from a role: a field itself, or the section under which it is shown.
const hiddenIn = (catalogue: Catalogue, role: string, sees: (section: string) => boolean): string[] =>
  catalogue.sections.flatMap(({ name, metas }) =>
    sees(name)
      ? [...metas].flatMap(([field, { hiddenFrom, shownIn }]) =>
          hiddenFrom?.includes(role) || (shownIn !== undefined && !sees(shownIn)) ? `${name}.${field}` : [],
        )
      : [],
  );

/** What an account may do by the catalogue of now: the roles named, whenever they are given, and what was granted to it alone. */
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
