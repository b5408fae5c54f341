// What a part of the register knows and was asked: so that what was not loaded is a miss, never an empty answer, and a
// decision can be compared with what others wrote meanwhile.
import type { Bound, Change, Row, SectionName } from '@gremium/contract';
import { type Catalogue, cellOf } from '@gremium/contract';
import { BEGINNING, isBefore } from './calendar';

/**
 * What is asked of a register: rows of a section by their thing (`thing`), by what a field of them names, or by the text
 * of a field that is looked for. Without `of`: all that the field names anywhere; of `*`: the whole section.
 */
export type RegisterKey = { section: SectionName; field: string; of: number | string | null; after?: Bound };

type Asking = Pick<RegisterKey, 'section' | 'field'>;

/** Asked for what was not loaded. Whoever decides loads it, and decides again. */
export class Miss extends Error {
  constructor(readonly key: RegisterKey) {
    super(`not loaded: ${keyText(key)}`);
  }
}

/** A key as text, by which reads and later writes are compared. */
export const keyText = ({ section, field, of }: RegisterKey): string =>
  `${section} ${field} ${of === null ? '*' : typeof of === 'string' ? `=${of}` : of}`;

/** A text as it is looked for. */
export const lookedText = (value: unknown): string => String(value).trim().toLowerCase();

/** What some of the register knows, which things are new, and what was read of it. */
export class Knowledge {
  private readonly reads = new Set<string>();
  // of each section and field, from when on all rows that name an id are there
  private readonly known = new Map<string, Map<number | string, Bound>>();
  private readonly whole = new Set<SectionName>();

  /**
   * `isNew`: things that are made just now, of which nothing else is recorded. Where it is not open, empty means none: for
   * plans over so much that all they need is loaded before, and nothing else is written meanwhile.
   */
  constructor(
    private readonly isNew: (id: number) => boolean = () => false,
    readonly isOpen = true,
  ) {}

  /** Keys that were read; of each section one more, by which changes too large to list are told. */
  get readKeys(): string[] {
    return [...this.reads];
  }

  /** A read that did not go through a register. */
  note(key: RegisterKey): void {
    if (typeof key.of === 'number' && this.isNew(key.of)) return;
    this.reads.add(keyText(key));
    this.reads.add(wholeText(key.section));
  }

  learn({ section, field, of, after = BEGINNING }: RegisterKey): void {
    const what = `${section} ${field}`;
    const ids = this.known.get(what) ?? new Map<number | string, Bound>();
    this.known.set(what, ids);
    const before = ids.get(of ?? '*');
    if (before === undefined || isBefore(after, before)) ids.set(of ?? '*', after);
  }

  /** The same of many ids: their look-ups are half of loading a file otherwise. */
  learnAll({ section, field }: Asking, ids: Iterable<number | string>, after: Bound = BEGINNING): void {
    const what = `${section} ${field}`;
    const known = this.known.get(what) ?? new Map<number | string, Bound>();
    this.known.set(what, known);
    for (const id of ids) {
      const before = known.get(id);
      if (before === undefined || isBefore(after, before)) known.set(id, after);
    }
  }

  /** Those of the ids that are not known, each once. */
  unknown<I extends number | string>(
    { section, field }: Asking,
    ids: readonly I[],
    after: Bound = BEGINNING,
  ): I[] {
    if (ids.length === 0 || this.whole.has(section)) return [];
    const known = this.known.get(`${section} ${field}`);
    const found = new Set<I>();
    for (const id of ids) {
      const since = known?.get(id);
      if (since !== undefined && !isBefore(after, since)) continue;
      if (typeof id !== 'number' || !this.isNew(id)) found.add(id);
    }
    return [...found];
  }

  learnWhole(section: SectionName): void {
    this.whole.add(section);
  }

  hasWhole(section: SectionName): boolean {
    return this.whole.has(section);
  }

  knows({ section, field, of, after = BEGINNING }: RegisterKey): boolean {
    if (this.whole.has(section) || (typeof of === 'number' && this.isNew(of))) return true;
    const since = field === '*' ? undefined : this.known.get(`${section} ${field}`)?.get(of ?? '*');
    return since !== undefined && !isBefore(after, since);
  }

  /** Notes a read; throws `Miss` where it cannot be answered. */
  look(key: RegisterKey): void {
    this.note(key);
    if (!this.knows(key)) throw new Miss(key);
  }
}

const wholeText = (section: SectionName): string => `${section} **`;

/** More rows than this are told by their sections alone. */
const MOST_TOLD = 1500;

/** The keys under which others may have read what a change touches. */
export const touchedKeys = ({ recorded, superseded }: Change, catalogue: Catalogue): string[] => {
  const rows = [...recorded, ...superseded];
  const keys = new Set<string>();
  for (const { section } of rows) keys.add(keyText({ section, field: '*', of: null }));
  if (rows.length > MOST_TOLD) {
    for (const { section } of rows) keys.add(wholeText(section));
    return [...keys];
  }
  for (const row of rows) for (const key of keysOf(row, catalogue)) keys.add(key);
  return [...keys];
};

function* keysOf({ section, thing, values }: Row, catalogue: Catalogue): Generator<string> {
  yield keyText({ section, field: 'thing', of: thing });
  const fields = values as Record<string, unknown>;
  for (const [field, meta] of catalogue.section(section).metas) {
    const value = fields[field];
    if (value === null || value === undefined) continue;
    if (meta.looked) yield keyText({ section, field, of: lookedText(value) });
    const named = cellOf(meta) === 'reference' ? [value] : meta.is === 'lists' ? (value as number[]) : [];
    for (const id of named) yield keyText({ section, field, of: id as number });
    if (named.length > 0) yield keyText({ section, field, of: null });
  }
}
