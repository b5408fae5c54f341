import type { Bound, Change, NewValues, Problem, Row, SectionName, Values } from '@gremium/contract';
import { type Fields, type Revision, type Version, begin, endOn, setFrom } from './timeline';
import { OPEN, type Period, isBefore } from './calendar';
import type { Register } from './register';

/** Hands out ids of things, rows and entries: ever new, never twice. */
export type NewId = () => number;

/**
 * An entry in the making: each step changes the register at once, so that the next step sees it, and the steps add up
 * to one change. A row recorded and superseded within it leaves no trace. `discard` gives the register back unchanged.
 */
export class Draft {
  readonly problems: Problem[] = [];
  private readonly recorded = new Map<number, Row>();
  private readonly superseded = new Map<number, Row>();

  constructor(
    readonly register: Register,
    readonly newId: NewId,
    readonly entry: number,
  ) {}

  get change(): Change {
    return { recorded: [...this.recorded.values()], superseded: [...this.superseded.values()] };
  }

  /** Makes a thing by the first version of its section; returns its id. */
  create<S extends SectionName>(section: S, from: Bound, values: NewValues<S>, until: Bound = OPEN): number {
    const thing = this.newId();
    this.begin(section, thing, { from, until }, values);
    return thing;
  }

  /** What may be empty may be left out of the values. */
  begin<S extends SectionName>(section: S, thing: number, period: Period, values: NewValues<S>): void {
    const rows = this.register.rows(section, thing);
    const whole = { ...this.register.catalogue.section(section).nulls, ...values } as Fields;
    this.revise(section, thing, begin(rows as unknown as Version[], { ...period, values: whole }));
  }

  set<S extends SectionName>(
    section: S,
    thing: number,
    edit: { from: Bound; until?: Bound; values: Partial<Values<S>>; override?: boolean },
  ): void {
    const rows = this.register.rows(section, thing);
    this.revise(
      section,
      thing,
      setFrom(rows as unknown as Version[], { ...edit, values: edit.values as Fields }),
    );
  }

  end(section: SectionName, thing: number, lastDay: Bound): void {
    this.revise(section, thing, endOn(this.register.rows(section, thing) as unknown as Version[], lastDay));
  }

  /** Removes all that lies from a day on, the day included; rows that begin later go whole. */
  cutFrom(section: SectionName, thing: number, from: Bound): void {
    const rows = this.register.rows(section, thing).filter((row) => isBefore(from, row.until));
    const recorded = rows
      .filter((row) => isBefore(row.from, from))
      .map((row) => ({ from: row.from, until: from, values: row.values as Fields }));
    this.revise(section, thing, { superseded: rows as unknown as Version[], recorded, problems: [] });
  }

  /** A row goes on, or ends, on another day, with the values that it has. */
  stretch(row: Row, until: Bound): void {
    const recorded = [{ from: row.from, until, values: row.values as Fields }];
    this.revise(row.section, row.thing, { superseded: [row as unknown as Version], recorded, problems: [] });
  }

  /** Takes over the result of a timeline operation on this section of this thing. */
  revise(section: SectionName, thing: number, { superseded, recorded, problems }: Revision<Version>): void {
    this.problems.push(...problems);
    for (const row of superseded) this.supersede(row as unknown as Row);
    for (const { from, until, values } of recorded) {
      const id = this.newId();
      const row = {
        id,
        lineage: id,
        section,
        thing,
        from,
        until,
        values: values as Values,
        entry: this.entry,
      };
      this.record(row);
    }
  }

  /** Records again, under a new id, a row that had been superseded. */
  restore(row: Row): void {
    this.record({ ...row, id: this.newId(), entry: this.entry });
  }

  supersede(row: Row): void {
    this.register.apply({ recorded: [], superseded: [row] });
    if (!this.recorded.delete(row.id)) this.superseded.set(row.id, row);
  }

  discard(): void {
    this.register.revert(this.change);
    this.recorded.clear();
    this.superseded.clear();
  }

  private record(row: Row): void {
    this.register.apply({ recorded: [row], superseded: [] });
    this.recorded.set(row.id, row);
  }
}
