import type { Readable } from 'node:stream';
import type { FileRef } from '@gremium/contract';

const types = {
  jpg: 'image/jpeg',
  png: 'image/png',
  csv: 'text/csv; charset=utf-8',
  tsv: 'text/tab-separated-values; charset=utf-8',
  zip: 'application/zip',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  pptx: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  odt: 'application/vnd.oasis.opendocument.text',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
  webp: 'image/webp',
  txt: 'text/plain; charset=utf-8',
  pdf: 'application/pdf',
  json: 'application/json; charset=utf-8',
} as const;

// Pictures, PDF and plain text run nothing of ours.
const SHOWN: readonly string[] = ['png', 'jpg', 'webp', 'pdf', 'txt'];

export type Format = keyof typeof types;

/** A file to be sent instead of JSON. */
export class FileOut {
  readonly name: string;
  readonly type: string;
  /** Looked at in its place, instead of being saved. */
  isShown = false;

  constructor(
    name: string,
    format: Format,
    readonly body: Buffer | Readable | string,
  ) {
    this.name = `${name.replace(/[\\/:*?"<>|\s]+/g, '_')}.${format}`;
    this.type = types[format];
  }

  /** A kept file under the name it has; shown in its place only where its kind can do nothing there. */
  static kept({ name, type }: FileRef, body: Buffer, isShown: boolean): FileOut {
    const out = new FileOut(name.replace(/\.[^.]*$/, ''), type, body);
    out.isShown = isShown && SHOWN.includes(type);
    return out;
  }
}
