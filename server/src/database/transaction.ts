import type { ClientBase, Pool, PoolClient } from 'pg';
import { isUnanswered } from './failure';

/** Ends a connection instead of giving it back: what it is in the midst of is undone by the database. */
const end = (client: PoolClient, error: unknown): void =>
  client.release(error instanceof Error ? error : new Error(String(error)));

type Shape = {
  begin?: string;
  /** Whether what was done is to stay. */
  keep?: boolean;
  /** Ends the connection after so many milliseconds, whatever it waits for. */
  most?: number;
};

/** Runs work in a transaction. A connection that no longer answers is ended, not waited for. */
export const transaction = async <T>(
  pool: Pool,
  work: (tx: ClientBase) => Promise<T>,
  { begin = 'begin', keep = true, most }: Shape = {},
): Promise<T> => {
  const client = await pool.connect();
  let isOver = false;
  const timer =
    most === undefined
      ? undefined
      : setTimeout(() => {
          isOver = true;
          end(client, new Error('Query read timeout'));
        }, most);
  try {
    await client.query(begin);
    const result = await work(client);
    await client.query(keep ? 'commit' : 'rollback');
    if (!isOver) client.release();
    return result;
  } catch (error) {
    if (isOver) throw error;
    const isLost = isUnanswered(error) || (await client.query('rollback').then(ok, lost));
    if (isLost) end(client, error);
    else client.release();
    throw error;
  } finally {
    clearTimeout(timer);
  }
};

const ok = () => false;
const lost = () => true;
