import type { Seer } from './catalogues';
import type { Looking } from './lens';
import type { AnswerOf, AskOf, QuestionName } from './questions';
import type { Asked } from './register-worker';
import type { WorkerData } from './sections-from';
import { patienceOf } from '../database/waits';
import { partFile } from '../parts';
import { ThreadCalls } from './thread-calls';

/** An answer that was written as JSON where it was worked out. */
export class Written<T> {
  declare readonly of: T;
  constructor(readonly json: string) {}
}

export type By = {
  viewer: Seer;
  looking: Looking;
  /** Answer by what is in memory, without looking for later entries. */
  asItIs?: boolean;
  /** How long is waited for the answer, in milliseconds, where nobody sits before it. */
  patience?: number;
};

/** The register in memory, asked from the server's own thread. The worker starts with the first question. */
export class RegisterThread {
  private readonly calls: ThreadCalls;

  private readonly patience: number;

  constructor(data: WorkerData) {
    this.patience = patienceOf(data.waits);
    this.calls = new ThreadCalls(partFile('time/register-worker'), data, {
      working: data.question * 1000,
    });
  }

  /** An answer as a value. What is asked and answered is copied between the threads. */
  ask<Q extends QuestionName>(name: Q, by: By, ask: AskOf<Q>): Promise<AnswerOf<Q>> {
    return this.send({ name, ...by, ask, asText: false }) as Promise<AnswerOf<Q>>;
  }

  /** An answer as JSON text, to be sent as it is: large ones need not be copied and written again. */
  async write<Q extends QuestionName>(name: Q, by: By, ask: AskOf<Q>): Promise<Written<AnswerOf<Q>>> {
    return new Written((await this.send({ name, ...by, ask, asText: true })) as string);
  }

  /** Starts the worker, which begins to load, before anybody asks. */
  start(): void {
    this.calls.start();
  }

  /** Whether the register is loaded. */
  state(): 'starting' | 'ready' {
    return this.calls.state();
  }

  /** Starts the worker if need be, and resolves once the register is loaded. */
  ready(): Promise<void> {
    return this.calls.ready();
  }

  close(): Promise<void> {
    return this.calls.close();
  }

  // the catalogue itself stays here: the worker has its own, and is told as of which entry
  private send({
    viewer,
    patience = this.patience,
    ...asked
  }: Omit<Asked, 'id' | 'viewer' | 'defined'> & By): Promise<unknown> {
    const { catalogue, below: _, ...plain } = viewer;
    const answer = this.calls.send({ ...asked, viewer: plain, defined: catalogue.number });
    return this.calls.inTime(answer, patience);
  }
}
