// A record taken out as one file: as it is read on a day (PDF), or with all its versions and entries (JSON).
import {
  type Day,
  type Moment,
  type RecordOut,
  type Row,
  type SectionName,
  recordFileWords,
} from '@gremium/contract';
import { isOn, lastDay } from '@gremium/core';
import { type Language, type Saying, dayWord, factsOf, sectionWord } from './record-words';

/** What a record is taken out with: whose, on which day, as recorded by when, by whom. */
export type OutHead = {
  title: string;
  number: string;
  organisation: string;
  on: Day;
  recordedBy: Moment;
  entry: number;
  by: string;
};

/** A section as it is read on a day: its rows, each since when and until when with its facts. */
export type SectionRead = {
  label: string;
  rows: { period: string; facts: { label: string; value: string }[] }[];
};

const periodOf = (row: Pick<Row, 'from' | 'until'>, language: Language): string => {
  const words = recordFileWords[language];
  const last = lastDay(row);
  return [
    row.from === '-infinity' ? '' : words.since(dayWord(row.from, language)),
    last === null ? '' : words.until(dayWord(last, language)),
  ]
    .filter(Boolean)
    .join(', ');
};

// What stands beside a person's own sections to show them.
const BESIDE: readonly SectionName[] = ['position', 'position_requirement', 'person_photo'];

/** The sections of a record in the order of the catalogue, as they are in effect on a day. */
export const sectionsRead = ({ rows }: Pick<RecordOut, 'rows'>, saying: Saying, on: Day): SectionRead[] =>
  saying.catalogue.names
    .filter((name) => !BESIDE.includes(name))
    .flatMap((name) => {
      const here = rows.filter((row) => row.section === name && isOn(row, on));
      const read = here.map((row) => ({
        period: periodOf(row, saying.language),
        facts: factsOf(row as unknown as Row, saying),
      }));
      const told = read.filter(({ facts }) => facts.length > 0);
      return told.length === 0 ? [] : [{ label: sectionWord(name, saying), rows: told }];
    });

/** All versions of a record that may be seen, each with what it says in words and the entries that made it. */
export const recordJson = (
  { rows, entries }: Pick<RecordOut, 'rows' | 'entries'>,
  saying: Saying,
  head: OutHead,
): string => {
  const entryOf = new Map(entries.map((entry) => [entry.id, entry]));
  const said = (id: number | undefined) => {
    const entry = id === undefined ? undefined : entryOf.get(id);
    return (
      entry && { number: entry.number, moment: entry.moment, account: entry.account, reason: entry.reason }
    );
  };
  const sections = saying.catalogue.names
    .filter((name) => !BESIDE.includes(name))
    .flatMap((name) => {
      const versions = rows.filter((row) => row.section === name);
      if (versions.length === 0) return [];
      return {
        section: name,
        label: sectionWord(name, saying),
        versions: versions.map((row) => ({
          ...{ thing: row.thing, validFrom: row.from, validUntil: row.until, values: row.values },
          said: Object.fromEntries(
            factsOf(row as unknown as Row, saying).map(({ label, value }) => [label, value]),
          ),
          ...{ recorded: said(row.entry), formedBy: said(row.formedBy), endedBy: said(row.endedBy) },
        })),
      };
    });
  return `${JSON.stringify({ ...head, sections }, null, 2)}\n`;
};
