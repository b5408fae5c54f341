// What a decision needs of the register, loaded from SQL inside its transaction: the things it names, what belongs to them,
// and what these refer to. Decisions see everything; what is shown to a viewer goes by the scoped queries only.
import type { Change, Kind, Row, SectionName } from '@gremium/contract';
import { sectionNames, sectionRefs, sections, sectionsOf } from '@gremium/contract';
import { type Register, RowRegister, affectedBy, madePossible, touchesReporting } from '@gremium/core';
import type { ClientBase } from 'pg';
import { many, manyById } from '../database/sql';
import { allRows, pointedPositions, rowsWhere, unitsAbove } from './version.sql';

export type Seed = { kind: Kind; id: number };

/** A register that grows as a decision asks for more of it. Ask for nothing while a draft is applied to it. */
export class Neighbourhood {
  readonly register = new RowRegister();
  private readonly rowIds = new Set<number>();
  private readonly asked = new Set<string>();

  constructor(private readonly tx: ClientBase) {}

  /** Things with all their sections and what belongs to them, and two steps along what those refer to. */
  async load(seeds: readonly Seed[]): Promise<Register> {
    const ids = (kind: Kind) => seeds.filter((seed) => seed.kind === kind).map(({ id }) => id);
    const kinds = [...new Set(seeds.map(({ kind }) => kind))];
    let fresh: Row[] = [];
    for (const kind of kinds)
      for (const section of sectionsOf(kind)) fresh.push(...(await this.add(section, 'thing', ids(kind))));
    fresh.push(...(await this.add('employment', 'personId', ids('person'))));
    const employments = [...ids('employment'), ...thingsIn(fresh, 'employment')];
    fresh.push(...(await this.add('employment', 'continuesId', employments)));
    for (const section of ['placement', 'contract', 'pay'] as const)
      fresh.push(...(await this.add(section, 'employmentId', employments)));
    fresh.push(...(await this.add('placement', 'positionId', ids('position'))));
    const placements = [...ids('placement'), ...thingsIn(fresh, 'placement')];
    fresh.push(...(await this.add('placement', 'forPlacementId', placements)));
    if (!this.asked.has('organisation')) {
      this.asked.add('organisation');
      this.take(await many<Row>(this.tx, allRows('organisation', null)));
    }
    fresh.push(...(await this.add('unit', 'parentId', ids('unit'))));
    for (let step = 0; step < 3; step++) fresh = await this.loadNamed(fresh);
    await this.add('grade_range', 'gradeId', [...this.register.things('grade')]);
    return this.register;
  }

  /** All rows of some sections: what many decisions at once refer to. */
  async loadAll(names: readonly SectionName[]): Promise<void> {
    for (const name of names) this.take(await many<Row>(this.tx, allRows(name, null)));
  }

  /** Rows of a section of which a field names one of the things. */
  async loadNaming(section: SectionName, field: string, ids: readonly number[]): Promise<Row[]> {
    return this.add(section, field, ids);
  }

  /** What the laws need to judge a change. */
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
    await this.loadReferrers(change);
    await this.loadPointing(change);
    if (touchesReporting(change, this.register)) await this.loadReporting();
    return this.register;
  }

  private async loadPointing({ recorded, superseded }: Change): Promise<void> {
    const positions = [...recorded, ...superseded]
      .filter((row) => row.section === 'position')
      .map((row) => row.thing);
    await this.add('position', 'reportsToId', positions);
    await this.add('unit', 'headPositionId', positions);
  }

  // Where existence was taken away, whoever refers to it.
  private async loadReferrers({ recorded, superseded }: Change): Promise<void> {
    const lost = madePossible({ recorded: superseded, superseded: recorded });
    for (const name of sectionNames)
      for (const { field } of sectionRefs(name)) await this.add(name, field, [...lost.keys()]);
  }

  // The whole tree of units, and every position that somebody may report to.
  private async loadReporting(): Promise<void> {
    this.take(await many<Row>(this.tx, allRows('unit', null)));
    this.take(await many<Row>(this.tx, pointedPositions));
  }

  private async loadNamed(rows: readonly Row[]): Promise<Row[]> {
    const named = new Map<Kind, Set<number>>();
    for (const row of rows)
      for (const { field, kind } of sectionRefs(row.section)) {
        const id = (row.values as Record<string, unknown>)[field] as number | null;
        if (id !== null) named.set(kind, (named.get(kind) ?? new Set()).add(id));
      }
    const found: Row[] = [];
    for (const [kind, ids] of named) {
      if (kind === 'unit') found.push(...(await this.addUnits([...ids])));
      else found.push(...(await this.add(kind as SectionName, 'thing', [...ids])));
    }
    return found;
  }

  private async addUnits(ids: number[]): Promise<Row[]> {
    const fresh = this.unasked('unit up', ids);
    if (fresh.length === 0) return [];
    return [
      ...this.take(await manyById<Row>(this.tx, unitsAbove(fresh))),
      ...(await this.add('unit_hiring', 'thing', fresh)),
    ];
  }

  private async add(section: SectionName, field: string, ids: readonly number[]): Promise<Row[]> {
    const fresh = this.unasked(`${section} ${field}`, ids);
    if (fresh.length === 0) return [];
    return this.take(await manyById<Row>(this.tx, rowsWhere(section, field, fresh)));
  }

  /** Things that are made just now: the database knows nothing of them, so nothing is asked. */
  isNew: (id: number) => boolean = () => false;

  private unasked(what: string, ids: readonly number[]): number[] {
    const fresh = [...new Set(ids)].filter((id) => !this.isNew(id) && !this.asked.has(`${what} ${id}`));
    for (const id of fresh) this.asked.add(`${what} ${id}`);
    return fresh;
  }

  private take(rows: Row[]): Row[] {
    const fresh = rows.filter(({ id }) => !this.rowIds.has(id));
    for (const { id } of fresh) this.rowIds.add(id);
    this.register.apply({ recorded: fresh, superseded: [] });
    return fresh;
  }
}

const thingsIn = (rows: readonly Row[], section: SectionName): number[] => [
  ...new Set(rows.filter((row) => row.section === section).map(({ thing }) => thing)),
];
