import type { Bound } from '@gremium/contract';
import { isBefore } from '../time/calendar';
import type { Register } from '../time/register';
import { fold, sortName, spokenName } from '../people/names';

/** Emails are compared without regard to capitals. */
export const emailKey = (text: string): string => text.trim().toLowerCase();

/** Who on the register has a number, an email or a name. Needs the people with their names and contacts. */
export class People {
  readonly byNumber = new Map<string, number>();
  private readonly byEmail = new Map<string, Set<number>>();
  private readonly byName = new Map<string, Set<number>>();

  constructor(
    private readonly register: Register,
    day: Bound,
  ) {
    for (const row of register.all('person')) this.byNumber.set(row.values.number, row.thing);
    for (const { until, values } of register.all('contact'))
      if (values.kind === 'email' && isBefore(day, until))
        note(this.byEmail, emailKey(values.value), values.personId);
    for (const { thing, values } of register.all('person_name'))
      for (const name of [spokenName(values), sortName(values)]) note(this.byName, fold(name), thing);
  }

  withEmail(email: string): number[] {
    return [...(this.byEmail.get(emailKey(email)) ?? [])];
  }

  withName(name: string): number[] {
    return [...(this.byName.get(fold(name)) ?? [])];
  }

  /** The person's number, or nothing if there is no such person. */
  numberOf(person: number): string {
    return this.register.rows('person', person)[0]?.values.number ?? '';
  }

  nameOn(person: number, on: Bound): string {
    const values =
      this.register.at('person_name', person, on) ?? this.register.rows('person_name', person)[0]?.values;
    return values ? spokenName(values) : '';
  }
}

const note = (index: Map<string, Set<number>>, key: string, person: number): void => {
  const found = index.get(key);
  if (found) found.add(person);
  else index.set(key, new Set([person]));
};
