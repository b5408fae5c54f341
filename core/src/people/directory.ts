// The directory: people on any day, searched, narrowed, in the order of their names, from the columns.
import type { Change, Day, PersonLine, Row, Status } from '@gremium/contract';
import type { Sight } from '../access/sight';
import type { Facts } from '../measures/facts';
import { boundOf, dayNumber } from '../time/calendar';
import type { Columns } from '../time/columns';
import { type Chain, NONE } from '../time/table';
import { fold, spokenName } from './names';

/** Whom a page of the list is to show. */
export type DirectoryAsk = {
  search?: string | undefined;
  /** `counted`: those here who count in headcount. */
  status: 'here' | 'counted' | 'coming' | 'left' | 'any';
  branch?: number | undefined;
  /** Only people of the unit itself, not of those below it. */
  itself?: boolean | undefined;
  location?: number | undefined;
  /** Whether the version of a name at a slot is of somebody who fits a condition; left out: all do. */
  fits?: ((slot: number) => boolean) | undefined;
  limit: number;
  offset: number;
};

// More names than this changed at once, and all are sorted anew.
const MANY = 200;

/** Texts that people are found by, and the order of their names; kept up with the columns. */
export class Directory {
  private order: number[] | null = null;
  private readonly names: (string | undefined)[] = [];
  private readonly emails: (string | undefined)[] = [];
  private readonly locals: (string | undefined)[] = [];
  private readonly texts: (string | undefined)[] = [];

  constructor(private readonly columns: Columns) {
    columns.follow((change) => this.note(change));
  }

  /** Slots of names in the order in which lists show them. */
  sorted(): readonly number[] {
    if (this.order) return this.order;
    const table = this.columns.table('person_name');
    const slots: number[] = [];
    for (let slot = 0; slot < table.size; slot++) if (table.isAlive(slot)) slots.push(slot);
    return (this.order = slots.sort((a, b) => this.compare(a, b)));
  }

  /** All names a person ever had, folded. */
  namesOf(person: number): string {
    return (this.names[person] ??= this.everNamed(person));
  }

  /** Email addresses of a person in small letters, one a line. */
  emailsOf(person: number): string {
    return (this.emails[person] ??= this.addressesOf(person));
  }

  /** What stands before the @ of each: a domain is everybody's, and finds nobody. */
  localsOf(person: number): string {
    return (this.locals[person] ??= this.emailsOf(person).replace(/@.*$/gm, ''));
  }

  /** Names and these in one text: one search for those who may see all of it. */
  textsOf(person: number): string {
    return (this.texts[person] ??= `${this.namesOf(person)}\n${this.localsOf(person)}`);
  }

  private note({ recorded, superseded }: Change): void {
    const persons = this.columns.thingsOf('person');
    const rows = [...recorded, ...superseded];
    for (const { section, values } of rows)
      if (section === 'contact') {
        const person = persons.find((values as { personId: number }).personId);
        this.emails[person] = this.locals[person] = this.texts[person] = undefined;
      }
    const names = rows.filter(({ section }) => section === 'person_name');
    for (const { thing } of names) {
      const person = persons.find(thing);
      this.names[person] = this.texts[person] = undefined;
    }
    if (names.length > MANY) this.order = null;
    else if (names.length > 0 && this.order) this.order = this.replaced(this.order, recorded);
  }

  // Old slots go, also where a new row has taken one of them; new ones are put where they belong.
  private replaced(order: readonly number[], recorded: readonly Row[]): number[] {
    const table = this.columns.table('person_name');
    const fresh = recorded.filter(({ section }) => section === 'person_name').map((row) => table.slotOf(row));
    const kept = order.filter((slot) => table.isAlive(slot) && !fresh.includes(slot));
    for (const slot of fresh) {
      let [low, high] = [0, kept.length];
      while (low < high) {
        const middle = (low + high) >> 1;
        if (this.compare(kept[middle] as number, slot) < 0) low = middle + 1;
        else high = middle;
      }
      kept.splice(low, 0, slot);
    }
    return kept;
  }

  // By the sort text; namesakes by the age of their record, so that every server has one order.
  private compare(a: number, b: number): number {
    const table = this.columns.table('person_name');
    const sort = table.extras[1] as string[];
    const { ids } = this.columns.thingsOf('person');
    return (
      compare(sort[a] as string, sort[b] as string) ||
      (ids[table.thing[a] as number] as number) - (ids[table.thing[b] as number] as number) ||
      (table.from[a] as number) - (table.from[b] as number)
    );
  }

  private everNamed(person: number): string {
    const table = this.columns.table('person_name');
    const search = table.extras[0] as string[];
    return [...table.byThing.of(person)].map((slot) => search[slot]).join('\n');
  }

  private addressesOf(person: number): string {
    const table = this.columns.table('contact');
    const { data, words } = table.field('kind');
    const email = words.find('email');
    const value = table.field('value');
    return [...(table.field('personId').chain?.of(person) ?? [])]
      .filter((slot) => data[slot] === email)
      .map((slot) => (value.words.texts[value.data[slot] as number] as string).toLowerCase())
      .join('\n');
  }
}

const isPlain = /^[\x20-\x7e]*$/;
const collator = new Intl.Collator('en');
// Folded names are nearly all plain letters, which compare as they stand.
const compare = (a: string, b: string): number =>
  isPlain.test(a) && isPlain.test(b) ? (a < b ? -1 : a > b ? 1 : 0) : collator.compare(a, b);

export type Standing = { rank: 0 | 1 | 2; employment: number; slot: number; day: number };

/** Where each person stands on a day: with the employment of that day (the main one), else the next, else the last. */
export const standings = (
  columns: Columns,
  sight: Sight,
  on: number,
): ((person: number) => Standing | null) => {
  const table = columns.table('employment');
  const { ids } = columns.thingsOf('employment');
  const chain = table.field('personId').chain as Chain;
  const [marked, froms, untils, things] = [table.column('markedMain'), table.from, table.until, table.thing];
  const seesAll = sight.all('employment');
  const standingAt = (slot: number): Standing => {
    const rank = (froms[slot] as number) > on ? 1 : (untils[slot] as number) <= on ? 2 : 0;
    const day = rank === 1 ? (froms[slot] as number) : rank === 2 ? (untils[slot] as number) - 1 : on;
    return { rank, employment: things[slot] as number, slot, day };
  };
  // by rank, then the marked one, the latest of those over, the earliest begun, the older record
  const isBefore = (a: Standing, b: Standing): boolean => {
    const by =
      a.rank - b.rank ||
      (marked[b.slot] as number) - (marked[a.slot] as number) ||
      (a.rank === 2 ? (untils[b.slot] as number) - (untils[a.slot] as number) : 0) ||
      (froms[a.slot] as number) - (froms[b.slot] as number) ||
      (ids[a.employment] as number) - (ids[b.employment] as number);
    return by < 0;
  };
  const isSeen = ({ employment, day }: Standing) =>
    seesAll || sight.employment(ids[employment] as number, day);
  return (person) => {
    let best: Standing | null = null;
    for (let slot = chain.first(person); slot >= 0; slot = chain.next(slot)) {
      const standing = standingAt(slot);
      if ((best === null || isBefore(standing, best)) && isSeen(standing)) best = standing;
    }
    return best;
  };
};

const RANKS = { here: 0, counted: 0, coming: 1, left: 2, any: -1 };

/**
 * A page of people on a day, with how many there are in all, and how many of those here do not count in headcount. Only those are listed whose employment of the day, name and
 * placement the viewer may see; a word is found in any name ever had, in an email or as the number.
 */
export const directory = (
  facts: Facts,
  texts: Directory,
  { ask, sight, on }: { ask: DirectoryAsk; sight: Sight; on: Day },
): { people: PersonLine[]; total: number; notCounted: number } => {
  const { columns } = facts;
  const day = dayNumber(on);
  const words = fold(ask.search ?? '')
    .split(' ')
    .filter(Boolean);
  const asked = RANKS[ask.status];
  const isHere = ask.status === 'here' || ask.status === 'counted';
  const names = columns.table('person_name');
  const persons = columns.thingsOf('person').ids;
  const isMatch = matcher(columns, texts, { sight, words, day });
  const line = lineMaker(facts, sight, day);
  const standingOf = standings(columns, sight, day);
  const seesAll = sight.all('person_name');
  const people: PersonLine[] = [];
  const isPlaceAsked = ask.branch !== undefined || ask.location !== undefined;
  let total = 0;
  let notCounted = 0;
  for (const slot of texts.sorted()) {
    if ((names.from[slot] as number) > day || day >= (names.until[slot] as number)) continue;
    const person = names.thing[slot] as number;
    if (words.length > 0 && !isMatch(person)) continue;
    const standing = standingOf(person);
    if (!standing || (asked >= 0 && standing.rank !== asked)) continue;
    if (!seesAll && !sight.person(persons[person] as number)) continue;
    if (ask.fits && !ask.fits(slot)) continue;
    const isOnPage = total >= ask.offset && people.length < ask.limit;
    const place = isPlaceAsked || isOnPage ? line.place(standing) : NOWHERE;
    if (ask.branch !== undefined && !line.isIn(place, ask.branch, ask.itself)) continue;
    if (ask.location !== undefined && line.locationId(place) !== ask.location) continue;
    if (isHere && !countsOn(facts, person, day)) {
      notCounted += 1;
      if (ask.status === 'counted') continue;
    }
    if (isOnPage) people.push(line.make(slot, standing, place));
    total += 1;
  }
  return { people, total, notCounted };
};

/** Whether a person (dense index) counts in headcount on a day (number). */
export const countsOn = ({ presences }: Facts, person: number, day: number): boolean =>
  presences
    .of(person)
    .some((at) => (presences.from[at] as number) <= day && day < (presences.until[at] as number));

/**
 * Whether a person is found by all words: in any name ever had, by the number of the day, in an email the viewer may see (of
 * which the part after the @ is looked at only for a word that has one itself).
 */
export const matcher = (
  columns: Columns,
  texts: Directory,
  { sight, words, day }: { sight: Sight; words: readonly string[]; day: number },
): ((person: number) => boolean) => {
  const { ids } = columns.thingsOf('person');
  const mayEmails = sight.has('contact');
  const seesAll = sight.all('contact');
  const table = columns.table('person');
  const { data, words: numbers } = table.field('number');
  const mayNumbers = sight.has('person');
  const seesAllNumbers = sight.all('person');
  const codes = words.map((word) => (mayNumbers ? numbers.find(word) : -1));
  const isNumber = (person: number, code: number): boolean => {
    const slot = code < 0 ? -1 : table.slotOn(person, day);
    if (slot < 0 || data[slot] !== code) return false;
    return seesAllNumbers || sight.person(ids[person] as number, 'person');
  };
  const hasWord = (person: number, i: number): boolean => {
    const word = words[i] as string;
    const isAddress = word.includes('@');
    const text = seesAll && !isAddress ? texts.textsOf(person) : texts.namesOf(person);
    if (text.includes(word) || isNumber(person, codes[i] as number)) return true;
    if (!mayEmails || (seesAll && !isAddress)) return false;
    const emails = isAddress ? texts.emailsOf(person) : texts.localsOf(person);
    return emails.includes(word) && (seesAll || sight.person(ids[person] as number, 'contact'));
  };
  return (person) => {
    for (let i = 0; i < words.length; i++) if (!hasWord(person, i)) return false;
    return true;
  };
};

const numberOf = (columns: Columns, person: number, day: number): string => {
  const table = columns.table('person');
  const slot = table.slotOn(person, day);
  const { data, words } = table.field('number');
  return slot < 0 ? '' : (words.texts[data[slot] as number] as string);
};

/** Where somebody is: slot of the placement and segment of its position; -1 is none, or not for the viewer. */
type At = { placement: number; segment: number; day: number };

/** Makes lines of people as lists show them. */
export const lineMaker = (facts: Facts, sight: Sight, on: number) => {
  const { columns, places } = facts;
  const [placements, employments, names] = [
    columns.table('placement'),
    columns.table('employment'),
    columns.table('person_name'),
  ];
  const ids = (kind: 'person' | 'position' | 'unit' | 'location' | 'employment') =>
    columns.thingsOf(kind).ids;
  const { data: kinds, words: kindWords } = placements.field('kind');
  const primary = kindWords.find('primary');
  const textOn = (section: 'unit' | 'location' | 'position', thing: number, day: number): string | null => {
    const table = columns.table(section);
    const slot = thing < 0 ? -1 : table.slotOn(thing, day);
    const { data, words } = table.field(section === 'position' ? 'title' : 'name');
    return slot < 0 ? null : (words.texts[data[slot] as number] as string);
  };
  const branches = new Map<number, Uint8Array>();
  const positionOf = ({ placement }: At) =>
    placement < 0 ? -1 : (placements.column('positionId')[placement] as number);
  const statusOf = ({ rank }: Standing, { placement }: At): Status => {
    if (rank !== 0) return rank === 1 ? 'coming' : 'left';
    if (placement < 0) return 'at_work';
    const [hours, lent, away] = ['hours', 'lentHours', 'awayHours'].map(
      (field) => placements.column(field)[placement] as number,
    ) as [number, number, number];
    return hours > 0 && away >= hours - lent ? 'away' : 'at_work';
  };
  return {
    place: ({ employment, day }: Standing): At => {
      for (const slot of placements.field('employmentId').chain?.of(employment) ?? []) {
        const isThen = (placements.from[slot] as number) <= day && day < (placements.until[slot] as number);
        if (!isThen || kinds[slot] !== primary) continue;
        const position = placements.column('positionId')[slot] as number;
        const seen = sight.placement(
          ids('position')[position] as number,
          ids('employment')[employment] as number,
          day,
        );
        return seen ? { placement: slot, segment: places.on(position, day), day } : NOWHERE;
      }
      return NOWHERE;
    },
    isIn: ({ segment }: At, branch: number, itself = false): boolean => {
      if (itself) return segment >= 0 && ids('unit')[places.unit[segment] as number] === branch;
      const flags = branches.get(branch) ?? places.inside(new Set([columns.thingsOf('unit').find(branch)]));
      branches.set(branch, flags);
      return segment >= 0 && flags[places.unitSegment[segment] as number] === 1;
    },
    locationId: ({ segment }: At): number | null => {
      const location = segment < 0 ? -1 : (places.location[segment] as number);
      return location < 0 ? null : (ids('location')[location] as number);
    },
    make: (slot: number, standing: Standing, at: At): PersonLine => {
      const person = names.thing[slot] as number;
      const position = positionOf(at);
      const since = boundOf(employments.from[standing.slot] as number);
      const unit = at.segment < 0 ? -1 : (places.unit[at.segment] as number);
      return {
        id: ids('person')[person] as number,
        // the number is of the person's data, which not everybody sees who sees the name
        number: sight.person(ids('person')[person] as number, 'person') ? numberOf(columns, person, on) : '',
        name: spokenName(names.values(slot) as never),
        sort: (names.extras[1] as string[])[slot] as string,
        status: statusOf(standing, at),
        positionId: position < 0 ? null : (ids('position')[position] as number),
        title: position < 0 ? null : textOn('position', position, at.day),
        unitId: unit < 0 ? null : (ids('unit')[unit] as number),
        unit: textOn('unit', unit, at.day),
        location: at.segment < 0 ? null : textOn('location', places.location[at.segment] as number, at.day),
        since: since === '-infinity' ? null : since,
      };
    },
  };
};

const NOWHERE: At = { placement: -1, segment: -1, day: NONE };
