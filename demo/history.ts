import type { Change, Day, EntryKind, Moment } from '@gremium/contract';
import { Draft, type PastEntry, RowRegister, addDays, isError, laws, planFromHistory } from '@gremium/core';

/** An entry as the generator makes it; numbers and digests are given when it is loaded. */
export type MadeEntry = {
  id: number;
  moment: Moment;
  kind: EntryKind;
  account: string;
  reason: string | null;
  undoes: number[];
  change: Change;
};

/** A history in the making: acts through core, in the order of a clock that moves on. */
export class History {
  readonly register = new RowRegister();
  readonly entries: MadeEntry[] = [];
  private last = 1000;
  private second = 0;
  private today: Day;

  constructor(
    start: Day,
    private readonly options: { checkLaws: boolean },
  ) {
    this.today = start;
  }

  readonly newId = (): number => this.last++;

  get lastId(): number {
    return this.last;
  }

  get day(): Day {
    return this.today;
  }

  /** Moves the clock on to a day; never back. */
  goTo(day: Day): void {
    if (day <= this.today) return;
    this.today = day;
    this.second = 0;
  }

  /** One entry. Errors and broken laws stop the generator: its history must be one that the application allows. */
  act<T>(
    { kind, account, reason }: { kind: EntryKind; account: string; reason?: string | undefined },
    work: (draft: Draft) => T,
  ): T {
    const entry = this.newId();
    const draft = new Draft(this.register, this.newId, entry);
    const result = work(draft);
    const { change } = draft;
    const broken = this.options.checkLaws
      ? laws(this.register, change).map((offence) => offence.problem)
      : [];
    const errors = [...draft.problems, ...broken].filter(isError);
    if (errors.length > 0) throw new Error(`${kind} on ${this.today}: ${JSON.stringify(errors)}`);
    this.keep({
      id: entry,
      moment: this.moment(),
      kind,
      account,
      reason: reason ?? null,
      undoes: [],
      change,
    });
    return result;
  }

  /** An entry if it is allowed; refused, it leaves no trace. */
  attempt(kind: EntryKind, work: (draft: Draft) => void): boolean {
    const entry = this.newId();
    const draft = new Draft(this.register, this.newId, entry);
    work(draft);
    const { change } = draft;
    const isEmpty = change.recorded.length + change.superseded.length === 0;
    const broken = isEmpty ? [] : laws(this.register, change).map((offence) => offence.problem);
    if (isEmpty || [...draft.problems, ...broken].some(isError)) {
      draft.discard();
      return false;
    }
    this.keep({
      id: entry,
      moment: this.moment(),
      kind,
      account: 'chance',
      reason: null,
      undoes: [],
      change,
    });
    return true;
  }

  /** Undoes an entry by its plan, as a new entry; null if the undo is refused. */
  undo(target: number): number[] | null {
    const past = this.past();
    const plan = planFromHistory(target, past, this.register, this.newId);
    if (plan.problems.length > 0) return null;
    const undoes = plan.entries.map(({ id }) => id);
    this.register.apply(plan.change);
    const id = plan.change.recorded[0]?.entry ?? this.newId();
    this.keep({
      id,
      moment: this.moment(),
      kind: 'undo',
      account: 'chance',
      reason: null,
      undoes,
      change: plan.change,
    });
    return undoes;
  }

  /** All entries as undo plans see them. */
  past(): PastEntry[] {
    return this.entries.map(({ id, undoes, change }, i) => ({ id, number: i + 1, undoes, ...change }));
  }

  keep(entry: MadeEntry): void {
    this.entries.push(entry);
  }

  /** The next moment of the day: acts follow each other by seconds from eight o'clock on. */
  moment(): Moment {
    const seconds = 8 * 3600 + this.second++ * 1;
    const extra = Math.floor(seconds / 86_400);
    const day = addDays(this.today, extra);
    const of = (n: number) => String(n).padStart(2, '0');
    const rest = seconds % 86_400;
    return `${day}T${of(Math.floor(rest / 3600))}:${of(Math.floor(rest / 60) % 60)}:${of(rest % 60)}.000000Z` as Moment;
  }
}
