// What a decision needs of the register, loaded from SQL inside its transaction: the things it names, what belongs to them,
// and what these refer to. What is loaded ahead are hints: what was forgotten is a miss, loaded when it is asked for.
// Decisions see everything; what is shown to a viewer goes by the scoped queries only.
import type { Catalogue, Change, Day, Kind, Row, SectionName } from '@gremium/contract';
import {
  Knowledge,
  OpenRegister,
  type RegisterKey,
  affectedBy,
  isBefore,
  lookedText,
  madePossible,
  pointedPositions as pointedIn,
  touchesReporting,
} from '@gremium/core';
import type { ClientBase } from 'pg';
import { type Sql, many, manyById } from '../database/sql';
import {
  allOf,
  allRows,
  pointedPositions,
  rowsNamingAny,
  rowsValued,
  rowsWhere,
  unitsAbove,
} from './version.sql';

// What comes from the database is a text of its own each time; the few that there are of a kind are kept once.
const texts = new Map<string, string>();
const shared = (text: string): string => {
  const known = texts.get(text);
  if (known !== undefined) return known;
  texts.set(text, text);
  return text;
};

export type Seed = { kind: Kind; id: number };

/** Rows asked for: of a section, those of which a field (`thing`: themselves) names one of the ids, or is one of the texts. */
type Want = {
  section: SectionName;
  field: string;
  ids: readonly (number | string)[];
  after?: Day | undefined;
};

// More ids than this at once are no case for the plan of a named query (docs/architecture.md, pitfalls).
const MOST_BY_ID = 200;
/** More misses than this in one act are a mistake in what is loaded ahead, not something forgotten. */
const MOST_MISSES = 20;

/** What tests leave out of what is loaded ahead: the results must be the same, by more queries. */
export const hints = { without: (_what: string): boolean => false };

type Options = {
  /** Things that are made just now, of which the database knows nothing, so that nothing is asked. */
  isNew?: (id: number) => boolean;
  /** Asked for what was not loaded, it says so; else that there is none. */
  isOpen?: boolean;
};

type Terms = { employmentId: number };

/**
 * A register that grows as a decision asks for more of it. What is asked for at once comes by one statement: a movement asks
 * for some thirty things, and each way to the database costs more than the reading.
 */
export class Neighbourhood {
  readonly register: OpenRegister;
  readonly knowledge: Knowledge;
  private readonly rowIds = new Set<number>();
  private readonly whole = new Map<SectionName, Row[]>();
  private misses = 0;

  constructor(
    private readonly tx: ClientBase,
    readonly catalogue: Catalogue,
    private readonly options: Options = {},
  ) {
    this.knowledge = new Knowledge(options.isNew, options.isOpen ?? true);
    this.register = new OpenRegister(catalogue, this.knowledge);
  }

  private isNew(id: number): boolean {
    return this.options.isNew?.(id) === true;
  }

  /**
   * Things with all their sections and what belongs to them, and two steps along what those refer to. Where nothing is to be
   * written before a day, and it is not after today, what was paid before it in employments that run then is left out, most
   * of what there is, and where their holders were placed.
   */
  async load(seeds: readonly Seed[], after?: Day): Promise<OpenRegister> {
    const ids = (kind: Kind) => seeds.filter((seed) => seed.kind === kind).map(({ id }) => id);
    const kinds = [...new Set(seeds.map(({ kind }) => kind))];
    const first = await this.want([
      ...kinds.flatMap((kind) => this.catalogue.of(kind).map((section) => of(section, 'thing', ids(kind)))),
      of('employment', 'personId', ids('person')),
      of('placement', 'positionId', ids('position')),
      of('unit', 'parentId', ids('unit')),
    ]);
    await this.loadOrganisation();
    const employments = [...ids('employment'), ...thingsIn(first, 'employment')];
    // also those that an earlier load met
    const holdings = ids('position').flatMap((id) => this.register.here('placement', 'positionId', id));
    const placements = [...ids('placement'), ...thingsIn([...first, ...holdings], 'placement')];
    const running = new Set(
      thingsIn(after ? first.filter(({ until }) => isBefore(after, until)) : [], 'employment'),
    );
    const belonging = await this.want([
      of('employment', 'continuesId', employments),
      ...(['placement', 'contract', 'absence'] as const).map((section) =>
        of(section, 'employmentId', employments),
      ),
      of(
        'pay',
        'employmentId',
        employments.filter((id) => !running.has(id)),
      ),
      { ...of('pay', 'employmentId', [...running]), after },
      of('placement', 'forPlacementId', placements),
      // where somebody was before they came to a position that is asked about
      of('placement', 'thing', placements),
    ]);
    const standing = await this.want([of('placement', 'forPlacementId', thingsIn(belonging, 'placement'))]);
    const isOver = ({ section, until, values }: Row) =>
      section === 'placement' &&
      running.has((values as unknown as Terms).employmentId) &&
      !isBefore(after as Day, until);
    // not pushed one to the other: a file may bring more rows than a call takes arguments
    let named: readonly Row[] = [...first, ...belonging, ...standing].filter((row) => !isOver(row));
    for (let step = 0; step < 3; step++) named = await this.loadNamed(named);
    const grades = thingsIn([...this.register.loaded('grade')], 'grade');
    await this.want([
      ...(['grade_range', 'grade_step', 'grade_step_pay'] as const).map((section) =>
        of(section, 'gradeId', grades),
      ),
      of('job_pay_basis', 'jobId', thingsIn([...this.register.loaded('job')], 'job')),
    ]);
    return this.register;
  }

  /** All rows of some sections: what many decisions at once refer to. */
  async loadAll(names: readonly SectionName[]): Promise<void> {
    for (const name of names) {
      if (this.whole.has(name) || hints.without(`${name} *`)) continue;
      await this.loadWhole(name);
    }
  }

  private async loadWhole(name: SectionName): Promise<void> {
    const rows = await many<Row>(this.tx, allRows(this.catalogue.section(name), null));
    this.keepWhole(name, rows);
  }

  private keepWhole(name: SectionName, rows: Row[]): void {
    this.whole.set(name, rows);
    this.knowledge.learnWhole(name);
    this.take(rows);
  }

  /** One for a portion of a file: it knows the same whole sections, and nothing else. */
  beside(): Neighbourhood {
    const other = new Neighbourhood(this.tx, this.catalogue, this.options);
    for (const [name, rows] of this.whole) other.keepWhole(name, rows);
    return other;
  }

  /** Loads what the register was asked for and did not know. Throws after more than twenty. */
  async fetch({ section, field, of: id }: RegisterKey): Promise<void> {
    if (++this.misses > MOST_MISSES)
      throw new Error(`more than ${MOST_MISSES} misses, the last ${section} ${field}`);
    if (field === '*') return this.loadWhole(section);
    if (id !== null) {
      await this.want([{ section, field, ids: [id, ...this.alike(section, field)] }], true);
      return;
    }
    this.take(await many<Row>(this.tx, rowsNamingAny(this.catalogue.section(section), field)));
    this.knowledge.learn({ section, field, of: null });
  }

  /** Rows of a section of which a field names one of the things. */
  async loadNaming(section: SectionName, field: string, ids: readonly number[]): Promise<Row[]> {
    return this.want([of(section, field, ids)]);
  }

  /** What the laws need to judge a change, which may be applied to the register meanwhile. */
  async loadFor(change: Change): Promise<OpenRegister> {
    const rows = [...change.recorded, ...change.superseded];
    await this.want([of('placement', 'forPlacementId', thingsIn(rows, 'placement'))]);
    const affected = affectedBy(change, this.register);
    const seeds: Seed[] = [];
    for (const { section, thing } of rows)
      if (!this.isNew(thing)) seeds.push({ kind: this.catalogue.section(section).kind, id: thing });
    for (const kind of ['unit', 'position', 'person', 'employment'] as const)
      for (const id of affected[kind]) if (!this.isNew(id)) seeds.push({ kind, id });
    await this.load(seeds);
    await this.loadNamed(change.recorded);
    await this.want([...referrersOfLost(change, this.catalogue), ...pointing(rows)]);
    await this.loadPaidBy(change);
    if (touchesReporting(change, this.register)) await this.loadReporting();
    return this.register;
  }

  /** Rows that say one of the texts in a field that is looked for by its value. */
  async loadValued(section: SectionName, field: string, texts: readonly string[]): Promise<void> {
    await this.want([{ section, field, ids: [...new Set(texts.map(lookedText))] }]);
  }

  /** Who might be the same as somebody new, or has the email of somebody else. */
  async loadTwins({ recorded }: Change): Promise<void> {
    const emails = (recorded as Row[]).flatMap(({ section, values }) => {
      const { kind, value } = values as { kind?: string; value?: string };
      return section === 'contact' && kind === 'email' && value ? lookedText(value) : [];
    });
    const births = (recorded as Row[]).flatMap(({ section, thing, values }) => {
      const { birthDate } = values as { birthDate?: Day | null };
      return section === 'person' && birthDate && this.isNew(thing) ? lookedText(birthDate) : [];
    });
    const alike = await this.want([
      { section: 'contact', field: 'value', ids: emails },
      { section: 'person', field: 'birthDate', ids: births },
    ]);
    const people = [
      ...new Set(
        alike.map(({ section, thing, values }) =>
          section === 'person' ? thing : (values as { personId: number }).personId,
        ),
      ),
    ];
    const employed = await this.want([
      of('person', 'thing', people),
      of('person_name', 'thing', people),
      of('employment', 'personId', people),
    ]);
    await this.want([of('employment', 'thing', thingsIn(employed, 'employment'))]);
  }

  // What will be asked for in the same way: things of the kind that are here, or are named by what is here.
  private alike(section: SectionName, field: string): number[] {
    const meta = this.catalogue.section(section).metas.get(field);
    if (meta?.looked) return [];
    const kind = meta?.is === 'ref' ? meta.kind : meta ? 'list_entry' : this.catalogue.section(section).kind;
    const found = new Set<number>();
    for (const name of this.catalogue.of(kind))
      for (const { thing } of this.register.loaded(name)) found.add(thing);
    for (const [name, { field: by }] of this.catalogue.naming(kind))
      for (const { values } of this.register.loaded(name)) {
        const named = (values as Record<string, unknown>)[by] as number | number[] | null;
        for (const id of [named ?? []].flat()) found.add(id);
      }
    const isKnown = (of: number) => this.knowledge.knows({ section, field, of });
    return [...found].filter((of) => !isKnown(of)).slice(0, MOST_BY_ID - 1);
  }

  // Whose pay is compared with a range that changes: who holds a position of the grade, and what they are paid.
  private async loadPaidBy({ recorded }: Change): Promise<void> {
    const ranges = recorded.filter((row): row is Row<'grade_range'> => row.section === 'grade_range');
    if (ranges.length === 0) return;
    const positions = await this.want([
      of('position', 'gradeId', [...new Set(ranges.map(({ values }) => values.gradeId))]),
    ]);
    const held = await this.want([of('placement', 'positionId', thingsIn(positions, 'position'))]);
    const employments = held.map(({ values }) => (values as unknown as Terms).employmentId);
    await this.want([of('pay', 'employmentId', employments), of('employment', 'thing', employments)]);
  }

  private async loadOrganisation(): Promise<void> {
    await this.loadAll(['organisation']);
  }

  // The whole tree of units, and every position that somebody may report to.
  private async loadReporting(): Promise<void> {
    await this.loadAll(['unit']);
    if (hints.without('position reportsToId')) return;
    this.take(await many<Row>(this.tx, pointedPositions(this.catalogue.section('position'))));
    this.knowledge.learn({ section: 'position', field: 'reportsToId', of: null });
    for (const id of pointedIn(this.register))
      this.knowledge.learn({ section: 'position', field: 'thing', of: id });
  }

  private async loadNamed(rows: readonly Row[]): Promise<Row[]> {
    const named = new Map<Kind, Set<number>>();
    for (const row of rows)
      for (const { field, kind } of this.catalogue.refs(row.section)) {
        const value = (row.values as Record<string, unknown>)[field] as number | number[] | null;
        if (value === null || value === undefined) continue;
        const ids = named.get(kind) ?? new Set<number>();
        for (const id of [value].flat()) ids.add(id);
        named.set(kind, ids);
      }
    const wants = [...named].map(([kind, ids]) => of(kind as SectionName, 'thing', [...ids]));
    const units = [...(named.get('unit') ?? [])];
    return this.want([
      ...wants.filter(({ section }) => section !== 'unit'),
      { section: 'unit', field: 'up', ids: units },
      of('unit_hiring', 'thing', units),
    ]);
  }

  // Asks for what is not known, by one statement; answers with the rows that are new.
  private async want(wants: readonly Want[], isMissed = false): Promise<Row[]> {
    const fresh = wants
      .filter(({ section, field }) => isMissed || !hints.without(`${section} ${field}`))
      .map((want) => ({ ...want, ids: this.unknown(want) }))
      .filter(({ ids }) => ids.length > 0);
    if (fresh.length === 0) return [];
    const queries = fresh.map((want) => this.queryFor(want));
    // the plan of a named query is made for few ids: over thousands of them it compares each row with each
    const isFew = fresh.every(({ ids }) => ids.length <= MOST_BY_ID);
    const rows = this.take(await (isFew ? manyById : many)<Row>(this.tx, allOf(queries)));
    for (const want of fresh) this.learn(want);
    this.learnOwned(rows, fresh);
    return rows;
  }

  private unknown({ section, field, ids, after }: Want): (number | string)[] {
    return this.knowledge.unknown({ section, field: field === 'up' ? 'thing' : field }, ids, after);
  }

  private queryFor({ section: name, field, ids, after }: Want): Sql {
    const section = this.catalogue.section(name);
    if (field === 'up') return unitsAbove(section, ids as number[]);
    return section.metas.get(field)?.looked
      ? rowsValued(section, field, ids as string[])
      : rowsWhere(section, field, ids as number[], after);
  }

  private learn({ section, field, ids, after }: Want): void {
    this.knowledge.learnAll({ section, field: field === 'up' ? 'thing' : field }, ids, after);
  }

  // Whose something is never changes (law `owner_constant`): with all rows of an owner, all versions of what is theirs are
  // there. Of units asked for upwards, each one met is.
  private learnOwned(rows: readonly Row[], wants: readonly Want[]): void {
    for (const { section, field, ids, after } of wants) {
      const isOwner = field === this.catalogue.section(section).owner?.field;
      if (!isOwner && field !== 'up') continue;
      const asked = new Set(ids);
      const things: number[] = [];
      for (const row of rows) {
        if (row.section !== section) continue;
        if (field === 'up' || asked.has((row.values as Record<string, unknown>)[field] as number))
          things.push(row.thing);
      }
      this.knowledge.learnAll({ section, field: 'thing' }, things, after);
    }
  }

  private take(rows: Row[]): Row[] {
    const fresh: Row[] = [];
    for (const row of rows) {
      if (this.rowIds.has(row.id)) continue;
      this.rowIds.add(row.id);
      row.section = shared(row.section) as SectionName;
      row.from = shared(row.from) as Row['from'];
      row.until = shared(row.until) as Row['until'];
      fresh.push(row);
    }
    this.register.take(fresh);
    return fresh;
  }
}

const of = (section: SectionName, field: string, ids: readonly number[]): Want => ({ section, field, ids });

// Where existence was taken away, whoever refers to it.
const referrersOfLost = ({ recorded, superseded }: Change, catalogue: Catalogue): Want[] => {
  if (superseded.length === 0) return [];
  const lost = [...madePossible({ recorded: superseded, superseded: recorded }, catalogue).keys()];
  return lost.length === 0
    ? []
    : catalogue.names.flatMap((name) => catalogue.refs(name).map(({ field }) => of(name, field, lost)));
};

const pointing = (rows: readonly Row[]): Want[] => {
  const positions = thingsIn(rows, 'position');
  return [of('position', 'reportsToId', positions), of('unit', 'headPositionId', positions)];
};

const thingsIn = (rows: readonly Row[], section: SectionName): number[] => [
  ...new Set(rows.filter((row) => row.section === section).map(({ thing }) => thing)),
];
