import { describe, expect, test } from '@jest/globals';
import type { Day, Row } from '@gremium/contract';
import fc from 'fast-check';
import { RowRegister } from './register';

type Contact = Row<'contact'>;

const day = (year: number): Day => `${year}-01-01` as Day;

const contact = (id: number, thing: number, personId: number, from: number): Contact => ({
  id,
  lineage: id,
  section: 'contact',
  thing,
  from: day(from),
  until: day(from + 2),
  values: { personId, kind: 'email', use: 'work', value: `${id}@x.example` } as Contact['values'],
  entry: 1,
});

const ids = (rows: readonly { id: number }[]): number[] => rows.map(({ id }) => id).sort((a, b) => a - b);

/** Many contacts of few people: some of nobody, some of one, some of more than a list holds. */
const steps = fc.array(
  fc.record({
    thing: fc.integer({ min: 1, max: 60 }),
    person: fc.constantFrom(1, 1, 1, 1, 2, 3),
    from: fc.integer({ min: 2000, max: 2010 }),
    drops: fc.nat(),
    isDrop: fc.constantFrom(false, false, true),
  }),
  { minLength: 1, maxLength: 120 },
);

describe('a register of rows', () => {
  test('finds the rows of a thing and those that name one as a scan over all rows does, whatever came and went', () => {
    fc.assert(
      fc.property(steps, (made) => {
        const register = new RowRegister();
        const rows: Contact[] = [];
        const wrong: unknown[] = [];
        const look = (at: number) => {
          for (const person of [1, 2, 3, 4]) {
            const own = rows.filter(({ values }) => values.personId === person);
            const later = own.filter(({ until }) => until > day(2006));
            const found = [
              ids(register.referrers('contact', 'personId', person)),
              ids(register.referrers('contact', 'personId', person, { from: day(2006), until: 'infinity' })),
            ];
            if (JSON.stringify(found) !== JSON.stringify([ids(own), ids(later)]))
              wrong.push([at, person, found]);
          }
          const named = [...new Set(rows.map(({ values }) => values.personId))].sort();
          if (JSON.stringify(register.named('contact', 'personId').sort()) !== JSON.stringify(named))
            wrong.push([at, 'named']);
          for (const thing of new Set(made.map((step) => step.thing)))
            if (
              JSON.stringify(ids(register.rows('contact', thing))) !==
              JSON.stringify(ids(rows.filter((row) => row.thing === thing)))
            )
              wrong.push([at, thing]);
        };
        made.forEach(({ thing, person, from, drops, isDrop }, i) => {
          const row = contact(i + 1, thing, person, from);
          const gone = isDrop && rows.length > 0 ? rows.splice(drops % rows.length, 1) : [];
          const change = { recorded: isDrop ? [] : [row], superseded: gone };
          if (!isDrop) rows.push(row);
          register.apply(change);
          look(i);
          // taken back and done again it is the same
          register.revert(change);
          register.apply(change);
          look(i);
        });
        expect(wrong).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  test('says which row is not there to be superseded', () => {
    const register = new RowRegister([contact(1, 5, 1, 2000)]);
    const other = contact(2, 5, 1, 2004);
    expect(() => register.apply({ recorded: [], superseded: [other] })).toThrow(
      'row 2 of contact 5 is not believed',
    );
  });
});
