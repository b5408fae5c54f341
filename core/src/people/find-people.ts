// The first few people whom a text means, the best fit first.
import type { Day, PersonLine } from '@gremium/contract';
import type { Sight } from '../access/sight';
import type { Facts } from '../measures/facts';
import { dayNumber } from '../time/calendar';
import type { Columns } from '../time/columns';
import { FITS, type Fit, beginsWords } from '../time/fit';
import { type Directory, type Standing, lineMaker, matcher, standings } from './directory';
import { fold } from './names';

/** A person found, and how well. */
export type PersonFound = PersonLine & { fit: Fit };

type Bucket = { slot: number; standing: Standing }[];

/**
 * The first `limit` people found by all words of a text on a day: by fit, those here before those coming and those who left,
 * then by name. Whom the viewer may see is told as in `directory`.
 */
export const findPeople = (
  facts: Facts,
  texts: Directory,
  { search, limit, sight, on }: { search: string; limit: number; sight: Sight; on: Day },
): PersonFound[] => {
  const { columns } = facts;
  const day = dayNumber(on);
  const words = fold(search).split(' ').filter(Boolean);
  const names = columns.table('person_name');
  const persons = columns.thingsOf('person').ids;
  const isMatch = matcher(columns, texts, { sight, words, day });
  const fitOf = fitter(columns, texts, { sight, words, day });
  const standingOf = standings(columns, sight, day);
  const buckets: Bucket[] = Array.from({ length: FITS.length * 3 }, () => []);
  if (words.length === 0) return [];
  for (const slot of texts.sorted()) {
    if ((names.from[slot] as number) > day || day >= (names.until[slot] as number)) continue;
    const person = names.thing[slot] as number;
    if (!isMatch(person)) continue;
    const fit = fitOf(person, slot);
    // enough of those here who fit as well or better: the others would not be shown
    if (isFull(buckets, fit, limit)) continue;
    const standing = standingOf(person);
    if (!standing || !sight.person(persons[person] as number)) continue;
    const bucket = buckets[fit * 3 + standing.rank] as Bucket;
    if (bucket.length < limit) bucket.push({ slot, standing });
  }
  const line = lineMaker(facts, sight, day);
  return buckets
    .flatMap((bucket, at) => bucket.map((one) => ({ ...one, fit: FITS[Math.floor(at / 3)] as Fit })))
    .slice(0, limit)
    .map(({ slot, standing, fit }) => ({ ...line.make(slot, standing, line.place(standing)), fit }));
};

/** A person on a day as lists show one; null where the viewer may not see the name, or nobody stands there. */
export const personLine = (
  facts: Facts,
  id: number,
  { sight, on }: { sight: Sight; on: Day },
): PersonLine | null => {
  const { columns } = facts;
  const day = dayNumber(on);
  const person = columns.thingsOf('person').find(id);
  const slot = person < 0 ? -1 : columns.table('person_name').slotOn(person, day);
  const standing = slot < 0 ? null : standings(columns, sight, day)(person);
  if (!standing || !sight.person(id)) return null;
  const line = lineMaker(facts, sight, day);
  return line.make(slot, standing, line.place(standing));
};

const isFull = (buckets: readonly Bucket[], fit: Fit, limit: number): boolean => {
  let found = 0;
  for (let at = 0; at <= fit * 3; at++) found += (buckets[at] as Bucket).length;
  return found >= limit;
};

// A number is exact or nothing; a name is begun where each word begins one of its parts, now or under a name once had.
const fitter = (
  columns: Columns,
  texts: Directory,
  { sight, words, day }: { sight: Sight; words: readonly string[]; day: number },
) => {
  const search = columns.table('person_name').extras[0] as string[];
  const { ids } = columns.thingsOf('person');
  const table = columns.table('person');
  const { data, words: numbers } = table.field('number');
  const asked = words.length === 1 && sight.has('person') ? numbers.find(words[0] as string) : -1;
  const isNumber = (person: number): boolean => {
    const slot = asked < 0 ? -1 : table.slotOn(person, day);
    return slot >= 0 && data[slot] === asked && sight.person(ids[person] as number, 'person');
  };
  return (person: number, slot: number): Fit => {
    const name = search[slot] as string;
    if (words.every((word) => ` ${name}`.includes(` ${word}`))) return 1;
    if (isNumber(person)) return 0;
    if (beginsWords(words, name)) return 2;
    return beginsWords(words, texts.namesOf(person)) ? 3 : 4;
  };
};
