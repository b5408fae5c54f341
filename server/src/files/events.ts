import { Readable } from 'node:stream';

/** Server-sent events (HTML Living Standard, "Server-sent events"): each value as JSON; the stream ends with the values. */
export class Events {
  constructor(private readonly values: AsyncIterable<unknown>) {}

  stream(): Readable {
    const { values } = this;
    return Readable.from(
      (async function* () {
        for await (const value of values) yield `data: ${JSON.stringify(value)}\n\n`;
      })(),
    );
  }
}
