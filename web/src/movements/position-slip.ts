import type { Values } from '@gremium/contract';
import type { SlipContext, SlipRow } from './slip-declared';

/** What is seldom said of a position, in the order of reading: when it is worked, what it asks, what it costs. */
export const positionRest: readonly SlipRow[] = [
  ['startTime', 'endTime'],
  ['temporary', 'remote'],
  ['seasonFirst', 'seasonLast'],
  ['probationMonths', 'clearanceId'],
  ['agreementId', 'unionId'],
  ['bargainingUnitId', 'reasonId'],
  ['budget', 'budgetCurrency'],
  'notes',
];

/** Words for the two numbers that limit a position; "{{people}}" and "{{fte}}" stand in them. */
export const limitWords = {
  en: {
    one: 'one person',
    several: 'up to {{people}} people',
    anybody: 'any number of people',
    upTo: 'up to {{fte}} FTE',
    noFte: 'no limit of FTE',
    none: 'no limit',
  },
  de: {
    one: 'eine Person',
    several: 'bis zu {{people}} Personen',
    anybody: 'beliebig viele Personen',
    upTo: 'bis zu {{fte}} VZÄ',
    noFte: 'ohne VZÄ-Grenze',
    none: 'ohne Grenze',
  },
};

type Limits = Pick<Values<'position_limits'>, 'places' | 'fte'>;

/** What two limits mean, in words: "up to 4 people, up to 2.80 FTE". */
export const limitsSaid = ({ places, fte }: Limits, { words, format }: SlipContext): string => {
  const said = words.options ?? {};
  if (places === null && fte === null) return said['none'] ?? '';
  const people = places === null ? said['anybody'] : places === 1 ? said['one'] : said['several'];
  const share = fte === null ? said['noFte'] : said['upTo'];
  return [
    people?.replace('{{people}}', format.number(places ?? 0)),
    share?.replace('{{fte}}', format.hundredths(fte ?? 0)),
  ].join(', ');
};

/** The limits that will hold: those that are typed, else those that stand without. */
export const limitsIn = (context: SlipContext, current: Limits | undefined): Limits | undefined => {
  const of = (field: 'places' | 'fte') =>
    context.input[field] === undefined ? current?.[field] : (context.input[field] as number | null);
  const [places, fte] = [of('places'), of('fte')];
  return places === undefined || fte === undefined ? undefined : { places, fte };
};
