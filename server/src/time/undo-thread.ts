import type { Problem, SectionName } from '@gremium/contract';
import type { WorkerData } from './sections-from';
import { patienceOf } from '../database/waits';
import { partFile } from '../parts';
import { ThreadCalls } from './thread-calls';
import type { AskedUndo } from './undo-worker';

/** What an undo plan came to: the numbers of its entries, latest first, and the entry that carried it out. */
export type Undone = {
  entry: number | null;
  problems: Problem[];
  touched: SectionName[];
  numbers: number[];
};

/** Undo plans, worked out beside the server's own thread. */
export class UndoThread {
  private readonly calls: ThreadCalls;
  private readonly planning = new Map<string, Promise<Undone>>();

  private readonly patience: number;

  constructor(data: WorkerData) {
    // a plan is looked at by somebody; carrying out what a large import wrote may take longer
    this.patience = patienceOf(data.waits);
    this.calls = new ThreadCalls(partFile('time/undo-worker'), data);
  }

  /** A plan; whoever waited too long is told to try again, and then gets the one that was begun. */
  plan(asked: Pick<AskedUndo, 'viewer' | 'number' | 'now'>): Promise<Undone> {
    const key = `${asked.viewer.account} ${asked.number}`;
    const begun = this.planning.get(key) ?? (this.calls.send({ ...asked, shown: null }) as Promise<Undone>);
    this.planning.set(key, begun);
    const over = () => this.planning.delete(key);
    begun.then(over, over);
    return this.calls.inTime(begun, this.patience);
  }

  undo(asked: Omit<AskedUndo, 'id'>): Promise<Undone> {
    return this.calls.send(asked) as Promise<Undone>;
  }

  close(): Promise<void> {
    return this.calls.close();
  }
}
