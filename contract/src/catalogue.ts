import { z } from 'zod';
import { type SectionName, presetSections } from './sections';
import { type Defined, withSettings } from './own-sections';
import { ledgers } from './reports/ledgers';
import type { OwnRole } from './access/role-section';
import type { FieldSetting } from './structure/own';
import type { Kind, Owner, Reference, ScopedBy, Section } from './time/section';

/** A section by its name; whether there is one is said by the catalogue (`section_unknown`). */
export const SectionNameSchema = z.string().regex(/^([a-z][a-z_]{1,59}|own\.\d{1,15})$/, {
  error: 'section_unknown',
}) as unknown as z.ZodType<SectionName, SectionName>;

/** Asked for a section, or a kind of thing, that there is not. */
export class NotInCatalogue extends Error {
  constructor(
    readonly what: 'section_unknown' | 'kind_unknown',
    readonly named: string,
  ) {
    super(`${what}: ${named}`);
  }
}

/** Sections from whose rows it is known where somebody is: what belongs to others is where these are. */
const ANCHORS = ['unit', 'position', 'placement', 'employment', 'person'] as const;
/** A kind of thing of which it is known itself where it is. */
export type Anchor = (typeof ANCHORS)[number];
/** Whether it is known of things of a kind themselves where they are. */
export const isAnchor = (kind: Kind): kind is Anchor => (ANCHORS as readonly Kind[]).includes(kind);

/**
 * All sections there are: the preset ones and the organisation's own, as of the entry `number` that last defined one. A
 * value: registers, columns, rights, journal and files are made from a given catalogue. Throws at start where what is
 * declared does not hold together.
 */
export class Catalogue {
  readonly names: readonly SectionName[];
  private readonly byName: ReadonlyMap<string, Section>;
  private readonly byKind = new Map<Kind, SectionName[]>();
  private readonly byOwner = new Map<Kind, SectionName[]>();
  private readonly namings = new Map<Kind, [SectionName, Reference][]>();
  private readonly scopes = new Map<string, ScopedBy>();

  constructor(
    readonly sections: readonly Section[],
    readonly number = 0,
    /** The organisation's own roles by their codes. */
    readonly roles: ReadonlyMap<string, Defined<OwnRole>> = new Map(),
  ) {
    this.byName = new Map(sections.map((section) => [section.name, section]));
    this.names = sections.map(({ name }) => name as SectionName);
    if (this.byName.size < sections.length) throw new Error('two sections of one name');
    for (const section of sections) {
      add(this.byKind, section.kind, section.name as SectionName);
      if (section.owner && section.owner.field !== 'thing')
        add(this.byOwner, section.owner.kind, section.name as SectionName);
      for (const reference of section.refs)
        add(this.namings, reference.kind, [section.name as SectionName, reference]);
    }
    for (const section of sections) this.check(section);
  }

  has(name: string): boolean {
    return this.byName.has(name);
  }

  /** A section by its name, or what is read like one (`ledgers`). */
  section(name: string): Section {
    const found = this.byName.get(name) ?? ledgers.get(name);
    if (!found) throw new NotInCatalogue('section_unknown', name);
    return found;
  }

  /** The sections of one kind of thing, its base section first. */
  of(kind: Kind): readonly SectionName[] {
    const found = this.byKind.get(kind);
    if (!found && kind !== 'own_row' && !ledgers.has(kind)) throw new NotInCatalogue('kind_unknown', kind);
    return found ?? [];
  }

  /** Every kind of thing. */
  get kinds(): Kind[] {
    return [...this.byKind.keys()];
  }

  /** Sections whose rows name a thing of the kind as whose they are. */
  belongingTo(kind: Kind): readonly SectionName[] {
    return this.byOwner.get(kind) ?? [];
  }

  /** Sections with the fields that name things of a kind. */
  naming(kind: Kind): readonly (readonly [SectionName, Reference])[] {
    return this.namings.get(kind) ?? [];
  }

  refs(name: SectionName): readonly Reference[] {
    return this.byName.get(name)?.refs ?? [];
  }

  /** Who sees its rows; as its owner, where it does not say. */
  scope(name: SectionName): ScopedBy {
    return this.scopes.get(name) ?? this.scopeThrough(this.section(name), []);
  }

  isReference(name: SectionName): boolean {
    return this.scope(name) === 'everybody';
  }

  /** Sections that describe no person and belong to no unit: whoever may view them sees all of them. */
  get references(): SectionName[] {
    return this.names.filter((name) => this.isReference(name));
  }

  /** The thing whose part of the organisation decides over a row: the nearest one of which it is known where it is. */
  anchor(name: SectionName): Owner {
    const section = this.section(name);
    if (isAnchor(section.kind) || !section.owner) return { field: 'thing', kind: section.kind };
    return section.owner;
  }

  /** The same with other sections in place of the organisation's own, and what it says of fields. To be asked of the base. */
  with(
    own: readonly Section[],
    number: number,
    {
      settings = [],
      roles = [],
    }: { settings?: readonly Defined<FieldSetting>[]; roles?: readonly Defined<OwnRole>[] } = {},
  ): Catalogue {
    const all = [...this.sections.filter(({ own: id }) => id === null), ...own];
    return new Catalogue(
      withSettings(all, settings),
      number,
      new Map(roles.map((role) => [role.values.code, role])),
    );
  }

  private scopeThrough(section: Section, through: string[]): ScopedBy {
    if (through.includes(section.name)) throw new Error(`section ${section.name} is owned by itself`);
    if (section.scope) return section.scope;
    const owner = section.owner && this.byName.get(section.owner.kind);
    if (!owner) throw new Error(`section ${section.name}: it is not said who sees it`);
    return this.scopeThrough(owner, [...through, section.name]);
  }

  private check(section: Section): void {
    const { name, kind, base, owner, refs, own } = section;
    if (!base && !this.byName.get(kind)?.base)
      throw new Error(`section ${name}: its kind ${kind} has no base section`);
    for (const reference of refs)
      if (!this.byName.get(reference.kind)?.base)
        throw new Error(`field ${name}.${reference.field} names a ${reference.kind}, of which there is none`);
    if (owner && !this.byName.get(owner.kind)?.base)
      throw new Error(`section ${name}: its owner ${owner.kind} has no base section`);
    if (own !== null && !owner) throw new Error(`section ${name} has no owner`);
    this.scopes.set(name, this.scopeThrough(section, []));
  }
}

const add = <K, V>(map: Map<K, V[]>, key: K, value: V): void => {
  const known = map.get(key);
  if (known) known.push(value);
  else map.set(key, [value]);
};

/** The catalogue without anything of the organisation's own. */
export const preset = new Catalogue(presetSections);
