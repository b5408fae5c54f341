import type { Readable } from 'node:stream';

const types = {
  jpg: 'image/jpeg',
  png: 'image/png',
  csv: 'text/csv; charset=utf-8',
  tsv: 'text/tab-separated-values; charset=utf-8',
  zip: 'application/zip',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;

export type Format = keyof typeof types;

/** A file to be sent instead of JSON. */
export class FileOut {
  readonly name: string;
  readonly type: string;

  constructor(
    name: string,
    format: Format,
    readonly body: Buffer | Readable | string,
  ) {
    this.name = `${name.replace(/[\\/:*?"<>|\s]+/g, '_')}.${format}`;
    this.type = types[format];
  }
}
