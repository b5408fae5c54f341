const setting = (name: string, preset: number): number => Number(process.env[name] ?? preset);

/** Limits of files taken in; settings of the environment (docs/operating.md). */
export const limits = {
  bytes: setting('GREMIUM_IMPORT_MB', 50) * 1_000_000,
  /** A file that a row names. */
  document: setting('GREMIUM_DOCUMENT_MB', 25) * 1_000_000,
  rows: setting('GREMIUM_IMPORT_ROWS', 200_000),
  columns: 200,
  /** What a workbook may come to unpacked. */
  unpacked: setting('GREMIUM_IMPORT_UNPACKED_MB', 500) * 1_000_000,
  /** How many letters a cell may have, and all cells of a file together. */
  cell: setting('GREMIUM_IMPORT_CELL', 10_000),
  text: setting('GREMIUM_IMPORT_TEXT_MB', 300) * 1_000_000,
  /** Memory of the process that reads a file, in MB, and how long it may take. */
  reading: setting('GREMIUM_IMPORT_READING_MB', 700),
  readingSeconds: setting('GREMIUM_IMPORT_READING_SECONDS', 300),
  /** Memory of the worker, in MB. */
  memory: setting('GREMIUM_IMPORT_MEMORY_MB', 512),
  /** How many rows are planned at once where they cannot touch each other. */
  portion: setting('GREMIUM_IMPORT_PORTION', 10_000),
  /** After so many seconds without a sign of life, work is taken over. */
  silence: setting('GREMIUM_IMPORT_TAKEOVER_SECONDS', 30),
};
