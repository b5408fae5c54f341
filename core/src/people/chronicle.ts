import type { Bound, Day, Kind, Row, SectionName } from '@gremium/contract';
import type { Register } from '../time/register';
import { addDays, byFrom } from '../time/calendar';
import { spellsOf } from './employments';

/** Something that happened or is planned on a day, with the rows it is read from; sentences are made of it later. */
export type Happening = {
  day: Bound;
  what: What;
  /** The row that says it; for an end, the last row before. */
  row: Row;
  /** What was in effect just before, if anything. */
  before?: Row;
  /** It is an end: said by whoever recorded the row, not by whoever began it. */
  isEnd: boolean;
};
/** What happened; sentences are made of it where it is shown. */
export type What =
  | 'joined'
  | 'continued'
  | 'left'
  | 'placed'
  | 'moved'
  | 'share'
  | 'placement_ended'
  | 'pay'
  | 'pay_ended'
  | 'contract'
  | 'fixed_end'
  | 'probation_end'
  | 'named'
  | 'data'
  | 'recorded'
  | 'changed'
  | 'ended';

const TERMS = ['contract', 'pay', 'placement'] as const;

/**
 * What happened and is planned for a person, latest first; on one day the heavier first. Days from the beginning (names
 * and data that always held) are left out.
 */
export const chronicle = (register: Register, personId: number): Happening[] => {
  const happenings = [
    ...employmentsOf(register, personId),
    ...changes(register, 'person_name', personId, 'named'),
    ...changes(register, 'person', personId, 'data'),
    ...others(register, personId),
  ];
  return happenings
    .filter(({ day }) => day !== '-infinity' && day !== 'infinity')
    .sort((a, b) => (a.day === b.day ? weight(a) - weight(b) : a.day < b.day ? 1 : -1));
};

/** What happened and is planned of a thing by its own sections, latest first: when each began, changed and ended. */
export const changesOf = (register: Register, kind: Kind, id: number): Happening[] =>
  register.catalogue
    .of(kind)
    .flatMap((section) => toldOf([...register.rows(section, id)] as unknown as Row[]))
    .filter(({ day }) => day !== '-infinity' && day !== 'infinity')
    .sort((a, b) => (a.day === b.day ? 0 : a.day < b.day ? 1 : -1));

const ENDS: What[] = ['left', 'placement_ended', 'pay_ended', 'ended'];
const WEIGHTS: What[] = ['left', 'joined', 'continued', 'moved', 'placed', 'placement_ended', 'share', 'pay'];
const weight = ({ what }: Happening): number => (WEIGHTS.indexOf(what) + WEIGHTS.length) % WEIGHTS.length;

const happening = (day: Bound, what: What, row: Row, before?: Row): Happening => ({
  day,
  what,
  row,
  isEnd: ENDS.includes(what),
  ...(before ? { before } : {}),
});

const employmentsOf = (register: Register, personId: number): Happening[] =>
  spellsOf(register, personId).flatMap((spell) => {
    const rows = [...spell.rows].sort(byFrom);
    const [first, last] = [rows[0], rows.at(-1)] as [Row<'employment'>, Row<'employment'>];
    const continuedBy = register
      .referrers('employment', 'continuesId', spell.id)
      .some(({ from }) => from === spell.until);
    const begins = happening(
      spell.from,
      first.values.continuesId === null ? 'joined' : 'continued',
      first as unknown as Row,
    );
    const ends =
      spell.until === 'infinity' || continuedBy
        ? []
        : [happening(addDays(spell.until, -1), 'left', last as unknown as Row)];
    return [begins, ...ends, ...TERMS.flatMap((section) => terms(register, section, spell.id, spell.until))];
  });

const terms = (
  register: Register,
  section: (typeof TERMS)[number],
  employmentId: number,
  ends: Bound,
): Happening[] => {
  const rows = register.referrers(section, 'employmentId', employmentId) as unknown as Row[];
  const things = [...new Set(rows.map(({ thing }) => thing))];
  return things.flatMap((thing) => {
    const own = rows.filter((row) => row.thing === thing).sort(byFrom);
    const last = own.at(-1) as Row;
    const replaced = rows.some(({ thing: other, from }) => other !== thing && from === last.until);
    const isEnd = last.until !== 'infinity' && last.until !== ends && !replaced;
    return [
      ...own.map((row, i) => begun(section, row, own[i - 1] ?? endingAt(rows, row))),
      ...(isEnd && section !== 'contract'
        ? [happening(addDays(last.until, -1), section === 'pay' ? 'pay_ended' : 'placement_ended', last)]
        : []),
      ...(section === 'contract' ? contractDates(last as unknown as Row<'contract'>) : []),
    ];
  });
};

// Another of the same kind that ends where this one begins: the pay, or the place, before.
const endingAt = (rows: readonly Row[], row: Row): Row | undefined => {
  const kindOf = ({ values }: Row) => {
    const { kindId, kind } = values as { kindId?: number; kind?: string };
    return kindId ?? kind;
  };
  return rows.find((other) => other.until === row.from && kindOf(other) === kindOf(row));
};

const begun = (section: (typeof TERMS)[number], row: Row, before: Row | undefined): Happening => {
  if (section !== 'placement') return happening(row.from, section, row, before);
  const isSame = before !== undefined && before.thing === row.thing;
  return happening(row.from, isSame ? 'share' : before ? 'moved' : 'placed', row, before);
};

const contractDates = (row: Row<'contract'>): Happening[] => {
  const { fixedUntil, probationUntil, probation } = row.values;
  const at = (day: Day | null, what: What) => (day ? [happening(day, what, row as unknown as Row)] : []);
  return [
    ...at(fixedUntil, 'fixed_end'),
    ...(probation === 'ended' ? [] : at(probationUntil, 'probation_end')),
  ];
};

const changes = (register: Register, section: SectionName, thing: number, what: What): Happening[] => {
  const rows = [...register.rows(section, thing)].sort(byFrom) as unknown as Row[];
  return rows.slice(1).map((row, i) => happening(row.from, what, row, rows[i]));
};

// Whatever else is kept of a person or of their employments, each row with its beginning, changes and end.
const others = (register: Register, personId: number): Happening[] => {
  const { catalogue } = register;
  const told = (section: SectionName) => !OF_ITS_OWN.includes(section) && !catalogue.section(section).untold;
  const owners = [
    { kind: 'person', ids: [personId] },
    { kind: 'employment', ids: spellsOf(register, personId).map(({ id }) => id) },
  ] as const;
  const belonging = owners.flatMap(({ kind, ids }) =>
    catalogue
      .belongingTo(kind)
      .filter(told)
      .flatMap((section) => {
        const field = catalogue.section(section).owner?.field as never;
        return ids.flatMap((id) => register.referrers(section, field, id) as unknown as Row[]);
      }),
  );
  const beside = catalogue
    .of('person')
    .filter(told)
    .flatMap((section) => [...register.rows(section, personId)] as unknown as Row[]);
  const things = new Map<string, Row[]>();
  for (const row of [...belonging, ...beside]) {
    const key = `${row.section} ${row.thing}`;
    things.set(key, [...(things.get(key) ?? []), row]);
  }
  return [...things.values()].flatMap(toldOf);
};

// The versions of one section of one thing: recorded, changed, ended.
const toldOf = (rows: Row[]): Happening[] => {
  const own = rows.sort(byFrom);
  const last = own.at(-1);
  if (!last) return [];
  const ended = last.until === 'infinity' ? [] : [happening(addDays(last.until, -1), 'ended', last)];
  return [
    ...own.map((row, i) => happening(row.from, i === 0 ? 'recorded' : 'changed', row, own[i - 1])),
    ...ended,
  ];
};

// Told in words of their own.
const OF_ITS_OWN: readonly SectionName[] = [...TERMS, 'person', 'person_name', 'employment'];
