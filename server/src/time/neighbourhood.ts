// What a decision needs of the register, loaded from SQL inside its transaction: the things it names, what belongs to them,
// and what these refer to. Decisions see everything; what is shown to a viewer goes by the scoped queries only.
import type { Change, Day, Kind, Row, SectionName } from '@gremium/contract';
import { sectionNames, sectionRefs, sections, sectionsOf } from '@gremium/contract';
import {
  type Register,
  RowRegister,
  affectedBy,
  isBefore,
  madePossible,
  touchesReporting,
} from '@gremium/core';
import type { ClientBase } from 'pg';
import { many, manyById } from '../database/sql';
import { peopleAlike } from '../people/number.sql';
import { allOf, allRows, pointedPositions, rowsWhere, unitsAbove } from './version.sql';

// What comes from the database is a text of its own each time; the few that there are of a kind are kept once.
const texts = new Map<string, string>();
const shared = (text: string): string => {
  const known = texts.get(text);
  if (known !== undefined) return known;
  texts.set(text, text);
  return text;
};

export type Seed = { kind: Kind; id: number };

/** Rows asked for: of a section, those of which a field (`thing`: themselves) names one of the ids. */
type Want = { section: SectionName; field: string; ids: readonly number[]; after?: Day | undefined };

// More ids than this at once are no case for the plan of a named query (docs/architecture.md, pitfalls).
const MOST_BY_ID = 200;

// Whose something is hardly changes: with all rows of an owner, all versions of what is theirs are taken to be there.
const ownedBy = (section: SectionName, field: keyof Owned) => ({
  field,
  asked: `${section} ${field}`,
  known: `${section} thing`,
});
const OWNERS: { [S in SectionName]?: ReturnType<typeof ownedBy> } = {
  contact: ownedBy('contact', 'personId'),
  employment: ownedBy('employment', 'personId'),
  contract: ownedBy('contract', 'employmentId'),
  placement: ownedBy('placement', 'employmentId'),
  pay: ownedBy('pay', 'employmentId'),
};
type Owned = { personId: number; employmentId: number };

/**
 * A register that grows as a decision asks for more of it. What is asked for at once comes by one statement: a movement asks
 * for some thirty things, and each way to the database costs more than the reading.
 */
export class Neighbourhood {
  readonly register = new RowRegister();
  private readonly rowIds = new Set<number>();
  // by section and field, of which ids all rows were asked for
  private readonly asked = new Map<string, Set<number>>();
  private readonly whole = new Map<SectionName, Row[]>();

  /**
   * `isNew`: things that are made just now, of which the database knows nothing, so that nothing is asked. `byOwner`: what
   * belongs to somebody is asked for by them alone, for files of many; what another owner had of it the database refuses.
   */
  constructor(
    private readonly tx: ClientBase,
    private readonly isNew: (id: number) => boolean = () => false,
    private readonly byOwner = false,
  ) {}

  /**
   * Things with all their sections and what belongs to them, and two steps along what those refer to. Where nothing is to be
   * written before a day, and it is not after today, what was paid before it in employments that run then is left out, most
   * of what there is, and where their holders were placed.
   */
  async load(seeds: readonly Seed[], after?: Day): Promise<Register> {
    const ids = (kind: Kind) => seeds.filter((seed) => seed.kind === kind).map(({ id }) => id);
    const kinds = [...new Set(seeds.map(({ kind }) => kind))];
    const first = await this.want([
      ...kinds.flatMap((kind) => sectionsOf(kind).map((section) => of(section, 'thing', ids(kind)))),
      of('employment', 'personId', ids('person')),
      of('placement', 'positionId', ids('position')),
      of('unit', 'parentId', ids('unit')),
    ]);
    await this.loadOrganisation();
    const employments = [...ids('employment'), ...thingsIn(first, 'employment')];
    const placements = [...ids('placement'), ...thingsIn(first, 'placement')];
    const running = new Set(
      thingsIn(after ? first.filter(({ until }) => isBefore(after, until)) : [], 'employment'),
    );
    const belonging = await this.want([
      of('employment', 'continuesId', employments),
      ...(['placement', 'contract'] as const).map((section) => of(section, 'employmentId', employments)),
      of(
        'pay',
        'employmentId',
        employments.filter((id) => !running.has(id)),
      ),
      { ...of('pay', 'employmentId', [...running]), after },
      of('placement', 'forPlacementId', placements),
    ]);
    const standing = await this.want([of('placement', 'forPlacementId', thingsIn(belonging, 'placement'))]);
    const isOver = ({ section, until, values }: Row) =>
      section === 'placement' &&
      running.has((values as unknown as Owned).employmentId) &&
      !isBefore(after as Day, until);
    // not pushed one to the other: a file may bring more rows than a call takes arguments
    let named: readonly Row[] = [...first, ...belonging, ...standing].filter((row) => !isOver(row));
    for (let step = 0; step < 3; step++) named = await this.loadNamed(named);
    await this.want([of('grade_range', 'gradeId', [...this.register.things('grade')])]);
    return this.register;
  }

  /** All rows of some sections: what many decisions at once refer to. */
  async loadAll(names: readonly SectionName[]): Promise<void> {
    for (const name of names) {
      if (this.whole.has(name)) continue;
      const rows = await many<Row>(this.tx, allRows(name, null));
      this.whole.set(name, rows);
      this.take(rows);
    }
  }

  /** One for a portion of a file: it knows the same whole sections, and nothing else. */
  beside(): Neighbourhood {
    const other = new Neighbourhood(this.tx, this.isNew, true);
    for (const [name, rows] of this.whole) {
      other.whole.set(name, rows);
      other.take(rows);
    }
    return other;
  }

  /** Rows of a section of which a field names one of the things. */
  async loadNaming(section: SectionName, field: string, ids: readonly number[]): Promise<Row[]> {
    return this.want([of(section, field, ids)]);
  }

  /** What the laws need to judge a change, which may be applied to the register meanwhile. */
  async loadFor(change: Change): Promise<Register> {
    const rows = [...change.recorded, ...change.superseded];
    const affected = affectedBy(change, this.register);
    const seeds: Seed[] = [];
    for (const { section, thing } of rows)
      if (!this.isNew(thing)) seeds.push({ kind: sections[section].kind, id: thing });
    for (const kind of ['unit', 'position', 'person', 'employment'] as const)
      for (const id of affected[kind]) if (!this.isNew(id)) seeds.push({ kind, id });
    await this.load(seeds);
    await this.loadNamed(change.recorded);
    await this.want([...referrersOfLost(change), ...pointing(rows)]);
    if (touchesReporting(change, this.register)) await this.loadReporting();
    return this.register;
  }

  /** Who might be the same as somebody new, or has the email of somebody else. */
  async loadTwins({ recorded }: Change): Promise<void> {
    const rows = recorded as Row[];
    const emails = rows.flatMap(({ section, values }) => {
      const { kind, value } = values as { kind?: string; value?: string };
      return section === 'contact' && kind === 'email' && value ? value.trim().toLowerCase() : [];
    });
    const births = rows.flatMap(({ section, thing, values }) => {
      const { birthDate } = values as { birthDate?: Day | null };
      return section === 'person' && birthDate && this.isNew(thing) ? birthDate : [];
    });
    if (emails.length + births.length === 0) return;
    const people = (await many<{ id: number }>(this.tx, peopleAlike(emails, births))).map(({ id }) => id);
    await this.want([
      of('person', 'thing', people),
      of('person_name', 'thing', people),
      of('contact', 'personId', people),
      of('employment', 'personId', people),
    ]);
  }

  private async loadOrganisation(): Promise<void> {
    await this.loadAll(['organisation']);
  }

  // The whole tree of units, and every position that somebody may report to.
  private async loadReporting(): Promise<void> {
    await this.loadAll(['unit']);
    this.take(await many<Row>(this.tx, pointedPositions));
  }

  private async loadNamed(rows: readonly Row[]): Promise<Row[]> {
    const named = new Map<Kind, Set<number>>();
    for (const row of rows)
      for (const { field, kind } of sectionRefs(row.section)) {
        const id = (row.values as Record<string, unknown>)[field] as number | null;
        if (id !== null) named.set(kind, (named.get(kind) ?? new Set()).add(id));
      }
    const wants = [...named].map(([kind, ids]) => of(kind as SectionName, 'thing', [...ids]));
    const units = [...(named.get('unit') ?? [])];
    return this.want([
      ...wants.filter(({ section }) => section !== 'unit'),
      { section: 'unit', field: 'up', ids: units },
      of('unit_hiring', 'thing', units),
    ]);
  }

  // Asks for what was not asked before, by one statement; answers with the rows that are new.
  private async want(wants: readonly Want[]): Promise<Row[]> {
    const fresh = wants
      .filter(({ section }) => !this.whole.has(section))
      .map(({ ids, ...want }) => ({ ...want, ids: this.unasked(`${want.section} ${want.field}`, ids) }))
      .filter(({ ids }) => ids.length > 0);
    if (fresh.length === 0) return [];
    const queries = fresh.map(({ section, field, ids, after }) =>
      field === 'up' ? unitsAbove(ids) : rowsWhere(section, field, ids, after),
    );
    // the plan of a named query is made for few ids: over thousands of them it compares each row with each
    const isFew = fresh.every(({ ids }) => ids.length <= MOST_BY_ID);
    return this.take(await (isFew ? manyById : many)<Row>(this.tx, allOf(queries)));
  }

  private unasked(what: string, ids: readonly number[]): number[] {
    const asked = this.askedOf(what);
    const fresh: number[] = [];
    for (const id of ids) {
      if (asked.has(id) || this.isNew(id)) continue;
      asked.add(id);
      fresh.push(id);
    }
    return fresh;
  }

  private askedOf(what: string): Set<number> {
    const asked = this.asked.get(what) ?? new Set();
    this.asked.set(what, asked);
    return asked;
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
      const owner = this.byOwner ? OWNERS[row.section] : undefined;
      if (owner && this.askedOf(owner.asked).has((row.values as unknown as Owned)[owner.field]))
        this.askedOf(owner.known).add(row.thing);
    }
    this.register.apply({ recorded: fresh, superseded: [] });
    return fresh;
  }
}

const of = (section: SectionName, field: string, ids: readonly number[]): Want => ({ section, field, ids });

// Where existence was taken away, whoever refers to it.
const referrersOfLost = ({ recorded, superseded }: Change): Want[] => {
  if (superseded.length === 0) return [];
  const lost = [...madePossible({ recorded: superseded, superseded: recorded }).keys()];
  return lost.length === 0
    ? []
    : sectionNames.flatMap((name) => sectionRefs(name).map(({ field }) => of(name, field, lost)));
};

const pointing = (rows: readonly Row[]): Want[] => {
  const positions = thingsIn(rows, 'position');
  return [of('position', 'reportsToId', positions), of('unit', 'headPositionId', positions)];
};

const thingsIn = (rows: readonly Row[], section: SectionName): number[] => [
  ...new Set(rows.filter((row) => row.section === section).map(({ thing }) => thing)),
];
