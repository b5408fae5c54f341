import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ClientBase } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';

const ESCAPES: Record<string, string> = { '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r' };
// Most texts have none of these: asking is cheaper than replacing.
const isEscaped = /[\\\t\n\r]/;
const isQuoted = /["\\]/;

const text = (value: unknown): string => {
  if (value === null || value === undefined) return '\\N';
  const plain = typeof value === 'string' ? value : String(value);
  return isEscaped.test(plain) ? plain.replace(/[\\\t\n\r]/g, (c) => ESCAPES[c] as string) : plain;
};

const quoted = (one: string): string => `"${isQuoted.test(one) ? one.replace(/["\\]/g, '\\$&') : one}"`;

/** A list of texts as PostgreSQL writes an array. */
export const arrayText = (texts: readonly string[]): string => `{${texts.map(quoted).join(',')}}`;

/** Many rows into a table by COPY: some ten times as quick as inserting them. */
export const copyIn = async (
  tx: ClientBase,
  table: string,
  columns: readonly string[],
  lines: () => Iterable<readonly unknown[]> | AsyncIterable<readonly unknown[]>,
): Promise<void> => {
  const names = columns.map((column) => `"${column}"`).join(', ');
  const stream = tx.query(copyFrom(`copy "${table}" (${names}) from stdin`));
  const source = async function* () {
    let block = '';
    for await (const cells of lines()) {
      block += `${cells.map(text).join('\t')}\n`;
      if (block.length > 1 << 18) {
        yield block;
        block = '';
      }
    }
    yield block;
  };
  await pipeline(Readable.from(source()), stream);
};
