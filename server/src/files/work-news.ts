// News of work, as PostgreSQL tells them (LISTEN): whoever waits for something to change need not ask again and again.
import { EventEmitter, once } from 'node:events';
import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import type { WorkTable } from './work.sql';

const CHANNEL = 'gremium_work';
const AGAIN_AFTER = 2000;

/** One connection that listens for the whole server; where it breaks off it is made anew. */
export class WorkNews {
  private readonly told = new EventEmitter().setMaxListeners(0);
  private readonly closing = new AbortController();
  private client: pg.Client | undefined;

  constructor(private readonly url: string) {}

  /** Begins to listen; `onNews` is called for each piece of news about a table. */
  start(onNews: (table: WorkTable) => void): void {
    this.told.on('news', (table: WorkTable) => onNews(table));
    void this.listen();
  }

  /** Waits until something is new about one piece of work, at most so many milliseconds. */
  async about(table: WorkTable, id: number, most: number): Promise<void> {
    const over = AbortSignal.any([AbortSignal.timeout(most), this.closing.signal]);
    await once(this.told, `${table} ${id}`, { signal: over }).catch(() => undefined);
  }

  async close(): Promise<void> {
    this.closing.abort();
    await this.client?.end().catch(() => undefined);
  }

  private async listen(): Promise<void> {
    while (!this.closing.signal.aborted) {
      const client = new pg.Client({ connectionString: this.url });
      this.client = client;
      const ended = new Promise<void>((resolve) => {
        client.on('error', () => resolve());
        client.on('end', () => resolve());
      });
      client.on('notification', ({ payload = '' }) => {
        const [table] = payload.split(' ');
        this.told.emit('news', table);
        this.told.emit(payload);
      });
      try {
        await client.connect();
        await client.query(`listen ${CHANNEL}`);
        await ended;
      } catch {
        // asked again below
      }
      await client.end().catch(() => undefined);
      if (!this.closing.signal.aborted) await wait(AGAIN_AFTER, undefined, { ref: false });
    }
  }
}
