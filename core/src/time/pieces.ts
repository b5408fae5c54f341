// What is worked out of a register on a day holds until the next day on which something it was worked out of changes. Whoever
// wants it for a stretch of days asks for it here: it is worked out once a piece, and never a day too few.
import type { Bound, Row, SectionName, Values } from '@gremium/contract';
import { ALWAYS, OPEN, type Period, isBefore, isOn, overlaps } from './calendar';
import type { Reading } from './register';

/** A value that holds from a day until another. */
export type Piece<T> = Period & { value: T };

/** Reads a register and notes until when what was read stays the same. What was read once is kept. */
export class Pieces {
  private readonly known = new Map<string, readonly Row[]>();
  private on: Bound = OPEN;
  private next: Bound = OPEN;

  private readonly reading: Reading;

  constructor(private readonly register: Reading) {
    this.reading = this.noting();
  }

  /** The values of an answer over a period, in the order of days. The answer must read by what it is given only. */
  over<T>(within: Period, answer: (reading: Reading, on: Bound) => T): Piece<T>[] {
    const found: Piece<T>[] = [];
    for (let from = within.from; isBefore(from, within.until);) {
      this.on = from;
      this.next = within.until;
      const value = answer(this.reading, from);
      found.push({ from, until: this.next, value });
      from = this.next;
    }
    return found;
  }

  private noting(): Reading {
    return {
      catalogue: this.register.catalogue,
      rows: <S extends SectionName>(section: S, thing: number) =>
        this.noted(
          this.keep(`${section} ${thing}`, () => this.register.rows(section, thing)),
        ) as readonly Row<S>[],
      at: <S extends SectionName>(section: S, thing: number, on: Bound) =>
        (
          this.noted(this.keep(`${section} ${thing}`, () => this.register.rows(section, thing))).find((row) =>
            isOn(row, on),
          ) as Row<S> | undefined
        )?.values as Values<S> | undefined,
      referrers: <S extends SectionName>(
        section: S,
        field: keyof Values<S> & string,
        thing: number,
        within: Period = ALWAYS,
      ) =>
        (
          this.noted(
            this.keep(`${section} ${field} ${thing}`, () => this.register.referrers(section, field, thing)),
          ) as Row<S>[]
        ).filter((row) => overlaps(row, within)),
    };
  }

  private keep(key: string, read: () => readonly Row[]): readonly Row[] {
    const known = this.known.get(key) ?? read();
    this.known.set(key, known);
    return known;
  }

  private noted(rows: readonly Row[]): readonly Row[] {
    for (const { from, until } of rows)
      for (const bound of [from, until])
        if (isBefore(this.on, bound) && isBefore(bound, this.next)) this.next = bound;
    return rows;
  }
}
