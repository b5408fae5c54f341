import type { SectionName } from '@gremium/contract';
import { Columns, Directory, Facts } from '@gremium/core';
import type { ClientBase, Pool } from 'pg';
import { many, one } from '../database/sql';
import { transaction } from '../database/transaction';
import { entriesAfter, head } from './journal.sql';
import type { Catalogues } from './catalogues';
import { headNumber } from './lens';
import { loadColumns, loadSection } from './load-columns';
import { pastEntries } from './undo';

/** The register in memory after an entry, with what is worked out of it. */
export type Known = { facts: Facts; directory: Directory; number: number };

// More entries than this behind, and loading anew is quicker than catching up.
const MOST_BEHIND = 200;
// A connection that gives nothing more is ended, so that the next question tries another; loading takes seconds.
const MOST_READING = 120_000;
// Sections asked for rarely that are kept loaded: each is some megabytes at scale.
const MOST_RARE = 12;
// Earlier moments kept loaded: who compares two of them goes to and fro.
const MOST_EARLIER = 2;

/**
 * The whole register as now believed, as columns: loaded once, then kept up by folding in each later entry, whole and in the
 * order of numbers, whichever process wrote it. Another moment is loaded anew. It lives in a worker (register-worker.ts).
 */
export class RegisterMemory {
  private now: Known | undefined;
  private catching: Promise<void> | undefined;
  private readonly earlier = new Map<number, Known>();
  private rare: [Columns, SectionName, Promise<void>][] = [];
  private readonly used = new WeakMap<Columns, SectionName[]>();

  /** `asking` is for the number of the last entry, `loading` for all that takes its time. */
  constructor(
    private readonly pools: { asking: Pool; loading: Pool },
    private readonly catalogues: Catalogues,
  ) {}

  /** As believed after an entry (null: after the last one committed before this is asked). */
  async known(by: number | null): Promise<Known> {
    if (by !== null) return this.at(by);
    const least = await headNumber(this.pools.asking);
    while (!this.now || this.now.number < least)
      await (this.catching ??= this.catchUp().finally(() => (this.catching = undefined)));
    return this.now;
  }

  /** As it is in memory, perhaps some entries behind; undefined while it loads. */
  atHand(): Known | undefined {
    return this.now;
  }

  private async at(number: number): Promise<Known> {
    const kept = this.earlier.get(number);
    if (kept) return kept;
    const made = await this.reading(async (tx) =>
      knownOf(await loadColumns(tx, new Columns(await this.catalogues.now(tx)), number), number),
    );
    const [oldest] = this.earlier.keys();
    if (this.earlier.size >= MOST_EARLIER && oldest !== undefined) this.earlier.delete(oldest);
    this.earlier.set(number, made);
    return made;
  }

  private async catchUp(): Promise<void> {
    await this.reading(async (tx) => {
      const { number, defined } = await one<{ number: number; defined: number }>(tx, head);
      const catalogue = await this.catalogues.knowing(tx, defined);
      const { now } = this;
      const behind = now && (await many<{ id: number }>(tx, entriesAfter(now.number, MOST_BEHIND + 1)));
      if (!behind || behind.length > MOST_BEHIND) {
        this.now = knownOf(await loadColumns(tx, new Columns(catalogue), null), number);
        return;
      }
      const past = await pastEntries(
        tx,
        catalogue,
        behind.map(({ id }) => id),
      );
      // from here on nothing waits: readers see the register before or after, never between
      this.now = undefined; // if a change did not fit, the next reader loads it anew
      // what an entry defines is known before the entry is folded in
      if (now.facts.columns.catalogue.number < catalogue.number) now.facts.columns.renew(catalogue);
      for (const change of past.sort((a, b) => a.number - b.number)) now.facts.columns.apply(change);
      now.number = number;
      this.now = now;
    });
  }

  /** Loads a section that is asked for rarely, as believed where the register is; lets go of the one used longest ago. */
  async loadRare({ facts: { columns } }: Known, section: SectionName): Promise<void> {
    const waiting = this.rare.find(([of, name]) => of === columns && name === section);
    if (waiting) return waiting[2];
    const loading = this.readRare(columns, section).finally(
      () => (this.rare = this.rare.filter((one) => one[2] !== loading)),
    );
    this.rare.push([columns, section, loading]);
    await loading;
    this.used.set(columns, [...(this.used.get(columns) ?? []).filter((name) => name !== section), section]);
    const open = this.used.get(columns) as SectionName[];
    if (open.length > MOST_RARE) columns.close(open.shift() as SectionName);
  }

  // Read beside the columns and put in place at once; read again where entries were folded in meanwhile.
  private async readRare(columns: Columns, section: SectionName): Promise<void> {
    for (;;) {
      const before = this.numberOf(columns);
      const table = await this.reading((tx) => loadSection(tx, columns, section, before));
      if (this.numberOf(columns) === before) return columns.keep(section, table);
    }
  }

  private numberOf(columns: Columns): number {
    if (this.now?.facts.columns === columns) return this.now.number;
    return [...this.earlier].find(([, known]) => known.facts.columns === columns)?.[0] ?? -1;
  }

  // One snapshot for all that is read together.
  private async reading<T>(read: (tx: ClientBase) => Promise<T>): Promise<T> {
    const begin = 'begin isolation level repeatable read read only';
    return transaction(this.pools.loading, read, { begin, most: MOST_READING });
  }
}

const knownOf = (columns: Columns, number: number): Known => ({
  facts: new Facts(columns),
  directory: new Directory(columns),
  number,
});
