// What reports can be about beside sections: entries of the journal, and those of them that are movements. Read from the
// journal when somebody asks; declared as sections are, so that their fields are columns, conditions and orders like any other.
import { z } from 'zod';
import { movementKinds } from '../movements/movements';
import { EntryKind } from '../time/entry';
import {
  type Kind,
  type Section,
  choiceOf,
  day,
  refTo,
  section,
  text,
  textAs,
  whole,
  yesNo,
} from '../time/section';

const shape = <const O extends z.ZodEnum>(acts: O) =>
  z.strictObject({
    number: whole(1, 2_000_000_000),
    recordedOn: day(),
    /** Hours and minutes by the clock of the organisation. */
    recordedAt: text(),
    act: choiceOf(acts),
    account: text(),
    reason: textAs(z.string()).nullable(),
    /** Of how many people it wrote something; whom, where it is one. */
    people: whole(0, 100_000_000),
    personId: refTo('person').nullable(),
    /** The first day on which anything is otherwise since. */
    changedFrom: day().nullable(),
    versions: whole(0, 100_000_000),
    undone: yesNo(),
  });

const ledger = (name: string, acts: z.ZodEnum): Section =>
  section(name, name as Kind, shape(acts), { scope: 'everybody', rare: true }) as unknown as Section;

/** Entries, and movements among them; seen by whoever may read the journal and sees everything. */
export const ledgers: ReadonlyMap<string, Section> = new Map(
  [ledger('entry', EntryKind), ledger('movement', z.enum(movementKinds))].map((one) => [one.name, one]),
);
