// A record taken out as one file: as it is read on a day (PDF), or with all its versions and entries (JSON).
import type { Catalogue, Moment, RecordOut, Row, SectionName } from '@gremium/contract';
import { isOn } from '@gremium/core';
import { type Language, type Names, dayWord, factsOf, sectionWord } from './record-words';

/** What a record is taken out with: whose, on which day, as recorded by when, by whom. */
export type OutHead = {
  title: string;
  number: string;
  organisation: string;
  on: string;
  recordedBy: Moment;
  entry: number;
  by: string;
  language: Language;
};

/** A section as it is read on a day: its rows, each since when and until when with its facts. */
export type SectionRead = {
  label: string;
  rows: { period: string; facts: { label: string; value: string }[] }[];
};

const SINCE = { en: 'since', de: 'seit' };
const UNTIL = { en: 'until', de: 'bis' };

const periodOf = ({ from, until }: Pick<Row, 'from' | 'until'>, language: Language): string =>
  [
    from === '-infinity' ? '' : `${SINCE[language]} ${dayWord(from, language)}`,
    until === 'infinity' ? '' : `${UNTIL[language]} ${dayWord(lastDayOf(until), language)}`,
  ]
    .filter(Boolean)
    .join(', ');

const lastDayOf = (until: string): string =>
  new Date(Date.parse(`${until}T00:00:00Z`) - 86_400_000).toISOString().slice(0, 10);

// What stands beside a person's own sections to show them.
const BESIDE: readonly SectionName[] = ['position', 'position_requirement', 'person_photo'];

/** The sections of a record in the order of the catalogue, as they are in effect on a day. */
export const sectionsRead = (
  catalogue: Catalogue,
  { rows }: Pick<RecordOut, 'rows'>,
  names: Names,
  { on, language }: Pick<OutHead, 'on' | 'language'>,
): SectionRead[] =>
  catalogue.names
    .filter((name) => !BESIDE.includes(name))
    .flatMap((name) => {
      const here = rows.filter((row) => row.section === name && isOn(row, on as never));
      const read = here.map((row) => ({
        period: periodOf(row, language),
        facts: factsOf(catalogue, row as unknown as Row, names, language),
      }));
      const told = read.filter(({ facts }) => facts.length > 0);
      return told.length === 0 ? [] : [{ label: sectionWord(catalogue, name, language), rows: told }];
    });

/** All versions of a record that may be seen, each with what it says in words and the entries that made it. */
export const recordJson = (
  catalogue: Catalogue,
  { rows, entries }: Pick<RecordOut, 'rows' | 'entries'>,
  names: Names,
  head: OutHead,
): string => {
  const entryOf = new Map(entries.map((entry) => [entry.id, entry]));
  const said = (id: number | undefined) => {
    const entry = id === undefined ? undefined : entryOf.get(id);
    return (
      entry && { number: entry.number, moment: entry.moment, account: entry.account, reason: entry.reason }
    );
  };
  const { language, ...about } = head;
  const sections = catalogue.names
    .filter((name) => !BESIDE.includes(name))
    .flatMap((name) => {
      const versions = rows.filter((row) => row.section === name);
      if (versions.length === 0) return [];
      return {
        section: name,
        label: sectionWord(catalogue, name, language),
        versions: versions.map((row) => ({
          ...{ thing: row.thing, validFrom: row.from, validUntil: row.until, values: row.values },
          said: Object.fromEntries(
            factsOf(catalogue, row as unknown as Row, names, language).map(({ label, value }) => [
              label,
              value,
            ]),
          ),
          ...{ recorded: said(row.entry), formedBy: said(row.formedBy), endedBy: said(row.endedBy) },
        })),
      };
    });
  return `${JSON.stringify({ ...about, sections }, null, 2)}\n`;
};
