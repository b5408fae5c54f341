// What a role gives, as a form and as sentences: levels by section, acts, hidden fields. Free of the page.
import {
  type Act,
  type Catalogue,
  type Level,
  type OwnRole,
  type RoleRule,
  type Section,
  type SectionName,
  grantOf,
  roleRules,
} from '@gremium/contract';
import { codeFrom } from '@gremium/core';

/** The levels in their order. */
export const LEVELS: readonly Level[] = ['none', 'view', 'propose', 'edit'];

/** What is being changed of a role. */
export type RoleForm = Pick<OwnRole, 'code' | 'label' | 'others'> & {
  acts: readonly Act[];
  levels: Readonly<Record<string, Level>>;
  follows: readonly string[];
  hides: readonly string[];
};

/** Groups of sections in the order in which they stand. */
export const GROUPS = ['person', 'employment', 'structure', 'lists', 'own'] as const;
export type Group = (typeof GROUPS)[number];

const KINDS: Partial<Record<string, Group>> = {
  person: 'person',
  employment: 'employment',
  placement: 'employment',
  unit: 'structure',
  position: 'structure',
  job: 'structure',
  grade: 'structure',
};

/** Where a section stands among the others: by whose its rows are. */
export const groupOf = (section: Section): Group => {
  if (section.own !== null) return 'own';
  return KINDS[section.kind] ?? KINDS[section.owner?.kind ?? section.kind] ?? 'lists';
};

/** The sections that a role can name, by group. What people tell of themselves alone is given by no role. */
export const sectionsByGroup = (catalogue: Catalogue): [Group, Section[]][] =>
  GROUPS.flatMap((group): [Group, Section[]][] => {
    const found = catalogue.sections.filter((one) => !one.byOneself && groupOf(one) === group);
    return found.length > 0 ? [[group, found]] : [];
  });

/** A role of nothing. */
export const noRole = (): RoleForm => ({
  code: '',
  label: { en: '', de: '' },
  others: 'none',
  acts: [],
  levels: {},
  follows: [],
  hides: [],
});

/** A role as a form: the level on every section as it now is. */
export const formOf = (role: string, label: RoleForm['label'], catalogue: Catalogue): RoleForm => {
  const grant = grantOf({ role, scope: { type: 'all' } }, catalogue);
  const own = catalogue.roles.get(role);
  const shipped = (roleRules as Record<string, RoleRule | undefined>)[role];
  return {
    code: role,
    label,
    others: own?.values.others ?? shipped?.all ?? 'none',
    acts: grant.acts,
    levels: Object.fromEntries(catalogue.names.map((name) => [name, grant.sections[name] ?? 'none'])),
    follows: grant.follows ?? [],
    hides: grant.hides ?? [],
  };
};

/** The level that a form gives on a section. */
export const levelIn = ({ levels, others }: RoleForm, { name, sensitive }: Section): Level =>
  levels[name] ?? (sensitive ? 'none' : others);

/** What is kept of a form: each section by its level, so that what a role gives never follows what others say. */
export const kept = (form: RoleForm, catalogue: Catalogue): Omit<OwnRole, 'note' | 'retired'> => ({
  code: form.code,
  label: form.label,
  acts: form.acts.length > 0 ? [...form.acts] : null,
  rights: Object.fromEntries(catalogue.sections.map((one) => [one.name, levelIn(form, one)])),
  others: form.others,
  follows: form.follows.length > 0 ? [...form.follows] : null,
  hides: form.hides.length > 0 ? [...form.hides] : null,
});

/** How many sections, and how many acts, two forms say otherwise. */
export const differences = (
  a: RoleForm,
  b: RoleForm,
  catalogue: Catalogue,
): { sections: number; acts: number; isSame: boolean } => {
  const isHidden = ({ hides }: RoleForm, name: string) =>
    hides
      .filter((field) => field.startsWith(`${name}.`))
      .sort()
      .join();
  const sections = catalogue.sections.filter(
    (one) =>
      levelIn(a, one) !== levelIn(b, one) ||
      a.follows.includes(one.name) !== b.follows.includes(one.name) ||
      isHidden(a, one.name) !== isHidden(b, one.name),
  ).length;
  const acts = [...new Set([...a.acts, ...b.acts])].filter(
    (act) => a.acts.includes(act) !== b.acts.includes(act),
  ).length;
  const isSame =
    sections + acts === 0 && a.others === b.others && a.label.en === b.label.en && a.label.de === b.label.de;
  return { sections, acts, isSame };
};

/** Sections of a role by what it gives on them, in the order in which they stand. */
export const byLevel = (form: RoleForm, catalogue: Catalogue): Record<Level, SectionName[]> => {
  const found: Record<Level, SectionName[]> = { none: [], view: [], propose: [], edit: [] };
  for (const [, sections] of sectionsByGroup(catalogue))
    for (const one of sections) found[levelIn(form, one)].push(one.name as SectionName);
  return found;
};

/** The code that a role gets of its name, where none is typed. */
export const codeOf = (name: string): string => codeFrom(name).toLowerCase().replaceAll('-', '_');
