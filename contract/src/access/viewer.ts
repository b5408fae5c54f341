import { z } from 'zod';
import { Id, type Section } from '../time/section';
import type { Right } from '../endpoint';
import { type Condition, type ConditionOf, Scope, conditionsOf, isOneself } from './scope';

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

/** Some acts and sections within a scope. Sections not named are `none`. */
export const Grant = z.strictObject({
  acts: z.array(Act),
  sections: z.record(z.string().max(60), Level),
  scope: Scope,
  /** Sections whose past follows who is inside today: all days of theirs, not only those inside. */
  follows: z.array(z.string().max(60)).optional(),
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

/** A part of a section that a grant covers: what meets all conditions; `follows`: all days of whoever is inside today. */
export type Covering = { conditions: readonly Condition[]; follows: boolean };

const isEverything = ({ scope }: Grant): boolean => conditionsOf(scope).length === 0;

/** What somebody may do: the one place that reads grants. */
export class May {
  constructor(private readonly grants: readonly Grant[]) {}

  /** Whether what an endpoint or a movement needs is given, anywhere. */
  allows(right: Right): boolean {
    if (typeof right === 'string') return true;
    if ('everywhere' in right) return this.doEverywhere(right.everywhere);
    return 'act' in right ? this.do(right.act) : this.has(right.section, right.level);
  }

  /** Whether a level is given on a section, anywhere. */
  has(section: string, level: Level): boolean {
    return this.grants.some((grant) => gives(grant, section, level));
  }

  view(section: string): boolean {
    return this.has(section, 'view');
  }

  edit(section: string): boolean {
    return this.has(section, 'edit');
  }

  /** Whether an act may be done, anywhere. */
  do(act: Act): boolean {
    return this.grants.some(({ acts }) => acts.includes(act));
  }

  /** Whether an act may be done over everything. */
  doEverywhere(act: Act): boolean {
    return this.grants.some((grant) => grant.acts.includes(act) && isEverything(grant));
  }

  /** Whether all there is of a section is given at a level. */
  everywhere(section: string, level: Level = 'view'): boolean {
    return this.grants.some((grant) => gives(grant, section, level) && isEverything(grant));
  }

  /** Whether some grant is over everything. */
  get hasWhole(): boolean {
    return this.grants.some(isEverything);
  }

  /** Whether nothing is given but one's own record. */
  get isOfOneself(): boolean {
    return this.grants.every(({ scope }) => isOneself(conditionsOf(scope)));
  }

  /** Conditions of a type, wherever something is given by them. */
  conditions<T extends Condition['type']>(type: T): ConditionOf<T>[] {
    return this.grants.flatMap(({ scope }) =>
      conditionsOf(scope).filter((one): one is ConditionOf<T> => one.type === type),
    );
  }

  /** All acts given, anywhere. */
  get acts(): Act[] {
    return [...new Set(this.grants.flatMap(({ acts }) => acts))];
  }

  /** The parts in which all sections are given at a level, by their conditions; one without any is everything. */
  coverings(sections: readonly string[], level: Level = 'view'): Covering[] {
    return this.grants
      .filter((grant) => sections.every((section) => gives(grant, section, level)))
      .map(({ scope, follows = [] }) => ({
        conditions: conditionsOf(scope),
        follows: sections.every((section) => follows.includes(section)),
      }));
  }

  /** What is given together with an act: what the act needs counts only there. */
  where(act: Act): Grant[] {
    return this.grants.filter(({ acts }) => acts.includes(act));
  }

  /** What is given together with a right. */
  with(right: Right): Grant[] {
    return this.grants.filter((grant) => new May([grant]).allows(right));
  }
}

/** What a viewer may do. */
export const may = ({ grants }: { grants: readonly Grant[] }): May => new May(grants);

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
    return showing.length === giving.length || showing.some(isEverything);
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
