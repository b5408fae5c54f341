// Who is present when, as columns: days on which a person counts in headcount with one position, legal entity and worker
// type. Where the position is, is for `Places`. A changed person is worked out anew.
import type { Change, Flags, ReasonClass } from '@gremium/contract';
import { ReasonClass as Classes } from '@gremium/contract';
import * as calendar from '../time/calendar';
import { dayNumber } from '../time/calendar';
import type { Columns } from '../time/columns';
import { type Chain, NONE, grown } from '../time/table';
import { entryFlags, inOrder } from '../structure/places';

/** How a presence begins or ends. `linked`: without a break from or into the neighbouring one of the person. */
export const EDGE = { linked: 0, employment: 1, other: 2 } as const;

const OPEN = dayNumber(calendar.OPEN);
const BEGINNING = dayNumber(calendar.BEGINNING);

/** Classes of leaving in the order of their codes. */
export const classCodes: readonly ReasonClass[] = Classes.options;

type Spell = { thing: number; from: number; until: number; slots: number[]; continues: number };

type Piece = {
  from: number;
  until: number;
  spell: Spell;
  position: number;
  entity: number;
  worker: number;
};

type Appended = Omit<Piece, 'spell'> & {
  person: number;
  employment: number;
  start: number;
  end: number;
  reason: number;
  isLinked: boolean;
};

const COLUMNS = [
  'person',
  'from',
  'until',
  'position',
  'employment',
  'entity',
  'worker',
  'start',
  'end',
  'reason',
  'before',
  'next',
] as const;

/** Who counts when, worked out of columns and following each change. */
export class Presences {
  size = 0;
  person = new Int32Array(0);
  from = new Int32Array(0);
  until = new Int32Array(0);
  /** Dense indices; -1 is none. */
  position = new Int32Array(0);
  employment = new Int32Array(0);
  entity = new Int32Array(0);
  worker = new Int32Array(0);
  /** `EDGE` of the start (employment: a joiner) and of the end (employment: a leaver). */
  start = new Int32Array(0);
  end = new Int32Array(0);
  /** Class of the reason for leaving, as a place in `classCodes`. */
  reason = new Int32Array(0);
  /** The presence before it where the start is linked; else -1. */
  before = new Int32Array(0);
  /** For each employment (dense index): its last day, unless another continues it; else the largest day. */
  lastDay = new Int32Array(0);
  /** The next presence of the same person, and the first and last of each person; -1 is none. */
  private next = new Int32Array(0);
  private first = new Int32Array(0);
  private last = new Int32Array(0);
  private flags: (Flags | undefined)[] = [];
  private counted = new Uint8Array(0);
  private readonly free: number[] = [];
  private isStale = true;
  private readonly changed = new Set<number>();

  constructor(private readonly columns: Columns) {
    columns.follow((change) => this.note(change));
  }

  current(): this {
    if (this.isStale) this.build();
    for (const person of this.changed) this.replace(person);
    this.changed.clear();
    return this;
  }

  /** Presences of a person (dense index), in order. */
  of(person: number): number[] {
    const found: number[] = [];
    for (let at = (this.first[person] ?? 0) - 1; at >= 0; at = (this.next[at] as number) - 1) found.push(at);
    return found;
  }

  private note({ recorded, superseded }: Change): void {
    for (const { section, values } of [...recorded, ...superseded]) {
      if (section === 'list_entry') this.isStale = true;
      const { personId, employmentId } = values as { personId?: number; employmentId?: number };
      if (section === 'employment' && personId)
        this.changed.add(this.columns.thingsOf('person').index(personId));
      if (section === 'placement' && employmentId) this.noteEmployment(employmentId);
    }
  }

  private noteEmployment(id: number): void {
    const table = this.columns.table('employment');
    const slot = table.byThing.first(this.columns.thingsOf('employment').find(id));
    if (slot >= 0) this.changed.add(table.column('personId')[slot] as number);
  }

  private build(): void {
    this.flags = entryFlags(this.columns);
    this.counted = Uint8Array.from(this.flags, (flags) => (flags?.counted === false ? 0 : 1));
    for (let person = 0; person < this.columns.thingsOf('person').ids.length; person++) this.replace(person);
    this.changed.clear();
    this.isStale = false;
  }

  private replace(person: number): void {
    this.first = grown(this.first, person + 1);
    this.last = grown(this.last, person + 1);
    this.lastDay = grown(this.lastDay, this.columns.thingsOf('employment').ids.length);
    for (const at of this.of(person)) {
      this.until[at] = this.from[at] as number; // an empty period: no scan meets it
      this.free.push(at);
    }
    this.first[person] = 0;
    this.last[person] = 0;
    const table = this.columns.table('employment');
    const { chain } = table.field('personId');
    const slot = chain?.first(person) ?? -1;
    if (slot < 0) return;
    if ((chain as Chain).next(slot) < 0) {
      this.replaceOne(person, slot);
      return;
    }
    const spells = this.spellsOf(person);
    for (const { thing, until } of spells)
      this.lastDay[thing] = until === OPEN || this.isContinued(thing) ? OPEN : until - 1;
    const pieces = this.piecesOf(spells);
    const counting = spells.filter(({ slots: [first] }) => this.isCounted(first as number));
    for (let i = 0; i < pieces.length; i++) this.push(person, pieces, i, counting);
  }

  // Most people have one employment in one version: no other can be main, continue it, or link to it.
  private replaceOne(person: number, slot: number): void {
    const table = this.columns.table('employment');
    const thing = table.thing[slot] as number;
    const [from, until] = [table.from[slot] as number, table.until[slot] as number];
    const worker = table.column('workerTypeId')[slot] as number;
    this.lastDay[thing] = until === OPEN ? OPEN : until - 1;
    if (this.counted[worker] === 0) return;
    const entity = table.column('legalEntityId')[slot] as number;
    const reason = table.column('endReasonId')[slot] as number;
    this.placed(thing, from, until, (start, end, position) => {
      const isLast = end === until && until !== OPEN;
      this.append({
        person,
        from: start,
        until: end,
        position,
        employment: thing,
        entity,
        worker,
        start: start === from && from !== BEGINNING ? EDGE.employment : EDGE.linked,
        end: isLast ? EDGE.employment : EDGE.linked,
        reason: isLast ? this.classOf(reason) : -1,
        isLinked: start !== from,
      });
    });
  }

  private push(person: number, pieces: readonly Piece[], i: number, spells: readonly Spell[]): void {
    const { spell, from, until, position, entity, worker } = pieces[i] as Piece;
    const [before, after] = [pieces[i - 1], pieces[i + 1]];
    const isLinkedBefore = before !== undefined && isLinked(before, pieces[i] as Piece, spells);
    const isLinkedAfter = after !== undefined && isLinked(pieces[i] as Piece, after, spells);
    const isFirst = from === spell.from && spell.continues < 0;
    const isLast = until === spell.until && !this.isContinued(spell.thing);
    const end = isLinkedAfter || until === OPEN ? EDGE.linked : isLast ? EDGE.employment : EDGE.other;
    this.append({
      person,
      from,
      until,
      position,
      employment: spell.thing,
      entity,
      worker,
      start: isLinkedBefore || from === BEGINNING ? EDGE.linked : isFirst ? EDGE.employment : EDGE.other,
      end,
      reason: end === EDGE.employment ? this.reasonOf(spell) : -1,
      isLinked: isLinkedBefore,
    });
  }

  private append(row: Appended): void {
    const at = this.free.pop() ?? this.size++;
    if (at >= this.from.length) for (const name of COLUMNS) this[name] = grown(this[name], at + 1);
    const { person } = row;
    const last = (this.last[person] as number) - 1;
    this.person[at] = person;
    this.from[at] = row.from;
    this.until[at] = row.until;
    this.position[at] = row.position;
    this.employment[at] = row.employment;
    this.entity[at] = row.entity;
    this.worker[at] = row.worker;
    this.start[at] = row.start;
    this.end[at] = row.end;
    this.reason[at] = row.reason;
    this.before[at] = row.isLinked ? last : -1;
    this.next[at] = 0;
    if (last < 0) this.first[person] = at + 1;
    else this.next[last] = at + 1;
    this.last[person] = at + 1;
  }

  private spellsOf(person: number): Spell[] {
    const table = this.columns.table('employment');
    const continues = table.column('continuesId');
    const things = new Set<number>();
    for (const slot of table.field('personId').chain?.of(person) ?? [])
      things.add(table.thing[slot] as number);
    return [...things]
      .map((thing): Spell => {
        const slots = inOrder(table, thing);
        const [first, last] = [slots[0] as number, slots.at(-1) as number];
        const continued = continues[first] as number;
        return {
          thing,
          slots,
          from: table.from[first] as number,
          until: table.until[last] as number,
          continues: continued === NONE ? -1 : continued,
        };
      })
      .sort((a, b) => a.from - b.from || this.idOf(a.thing) - this.idOf(b.thing));
  }

  /** Whether an employment (by its index) is of a worker type that counts: headcount and FTE are of the same people. */
  countsEmployment(employment: number): boolean {
    const slot = this.columns.table('employment').byThing.first(employment);
    return slot >= 0 && this.isCounted(slot);
  }

  /** Whether a worker type (by its index) counts. */
  countsWorker(worker: number): boolean {
    return this.counted[worker] !== 0;
  }

  private isCounted(slot: number): boolean {
    return this.counted[this.columns.table('employment').column('workerTypeId')[slot] as number] !== 0;
  }

  private idOf(employment: number): number {
    return this.columns.thingsOf('employment').ids[employment] as number;
  }

  private isContinued(thing: number): boolean {
    return (this.columns.table('employment').field('continuesId').chain?.first(thing) ?? -1) >= 0;
  }

  // The main one of the employments that count, cut where legal entity, worker type or primary placement change.
  private piecesOf(spells: readonly Spell[]): Piece[] {
    const table = this.columns.table('employment');
    const [entities, workers, marked] = [
      table.column('legalEntityId'),
      table.column('workerTypeId'),
      table.column('markedMain'),
    ];
    const versionOn = ({ slots }: Spell, day: number): number =>
      slots.find((slot) => (table.from[slot] as number) <= day && day < (table.until[slot] as number)) ?? -1;
    const days = new Set<number>();
    for (const { slots } of spells)
      for (const slot of slots) days.add(table.from[slot] as number).add(table.until[slot] as number);
    const cuts = [...days].sort((a, b) => a - b);
    return cuts.slice(0, -1).flatMap((from, i) => {
      const running = spells.filter(
        (spell) => this.isCounted(spell.slots[0] as number) && versionOn(spell, from) >= 0,
      );
      const main = running.find((spell) => marked[versionOn(spell, from)] === 1) ?? running[0];
      if (!main) return [];
      const slot = versionOn(main, from);
      const worker = workers[slot] as number;
      const entity = entities[slot] as number;
      const pieces: Piece[] = [];
      this.placed(main.thing, from, cuts[i + 1] as number, (start, until, position) =>
        pieces.push({ from: start, until, position, spell: main, entity, worker }),
      );
      return pieces;
    });
  }

  // Calls back for each stretch of an employment's days with one primary placement, or none (-1).
  private placed(
    employment: number,
    from: number,
    until: number,
    visit: (from: number, until: number, position: number) => void,
  ): void {
    const table = this.columns.table('placement');
    const { data: kinds, words } = table.field('kind');
    const positions = table.column('positionId');
    const primary = words.find('primary');
    const chain = table.field('employmentId').chain as Chain;
    const slots: number[] = [];
    for (let slot = chain.first(employment); slot >= 0; slot = chain.next(slot))
      if (
        kinds[slot] === primary &&
        (table.from[slot] as number) < until &&
        from < (table.until[slot] as number)
      )
        slots.push(slot);
    if (slots.length > 1) slots.sort((a, b) => (table.from[a] as number) - (table.from[b] as number));
    let at = from;
    for (const slot of slots) {
      const start = Math.max(at, table.from[slot] as number);
      const end = Math.min(until, table.until[slot] as number);
      if (start > at) visit(at, start, -1);
      visit(start, end, positions[slot] as number);
      at = end;
    }
    if (at < until) visit(at, until, -1);
  }

  private reasonOf({ slots }: Spell): number {
    const reasons = this.columns.table('employment').column('endReasonId');
    return this.classOf(
      slots.map((slot) => reasons[slot] as number).find((reason) => reason !== NONE) ?? NONE,
    );
  }

  private classOf(reason: number): number {
    return classCodes.indexOf((reason !== NONE && this.flags[reason]?.class) || 'other');
  }
}

// Whether somebody present until the end of `a` and from the start of `b` was here without a break: an employment that counts
// goes on over that night, or the next continues the one that ended. A return on the very next day is a leaver and a joiner.
const isLinked = (a: Piece, b: Piece, counting: readonly Spell[]): boolean =>
  a.until === b.from &&
  (b.spell.continues === a.spell.thing ||
    counting.some(({ from, until }) => from < b.from && b.from < until));
