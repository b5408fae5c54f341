import type { CrossOut, Day, DimensionName, Label, ScopeNames, WhyOut } from '@gremium/contract';
import { conditionWords } from '@gremium/contract';
import {
  type CrossAsk,
  type Key,
  type Parts,
  type Register,
  type WhyCell,
  type WhyPage,
  boundOf,
  codeName,
  crossTable,
  monthFlows,
  why,
} from '@gremium/core';
import { COUNTED } from '../structure/rolled-days';
import type { Asking } from '../time/questions';

type Ask = Omit<CrossAsk, 'part' | 'seen' | 'on' | 'today' | 'dataFrom'>;

type WhyAsk = WhyCell & { ask: Ask; page?: WhyPage };

export const measureQuestions = {
  crossTable: (asking: Asking, ask: Ask): CrossOut => {
    const whole = wholeAsk(asking, ask);
    const { months, rows, total, chips, classes } = crossTable(asking.facts, whole);
    const labelOf = labels(asking);
    return {
      entry: asking.number,
      on: whole.on,
      today: whole.today,
      dataFrom: whole.dataFrom,
      months,
      rows: rows
        .map((row) => ({ ...row, label: labelOf(ask.by, row.key) }))
        .sort((a, b) => compareLabels(a.label, b.label)),
      total,
      chips: chips.map(({ dimension, values }) => ({
        dimension,
        values: values.map((value) => ({ ...value, label: labelOf(dimension, value.key) })),
      })),
      classes,
      scope:
        whole.part === 'all'
          ? null
          : whole.part.map(({ covering }) => conditionWords(covering.conditions, scopeNames(labelOf))),
    };
  },

  why: (asking: Asking, { ask, page, ...cell }: WhyAsk): WhyOut => {
    const found = why(asking.facts, wholeAsk(asking, ask), cell, page);
    const { key } = cell;
    const mayNumber = ({ personId }: WhyOut['people'][number]) => asking.sight.person(personId, 'person');
    return {
      entry: asking.number,
      label: key === 'all' ? null : labels(asking)(ask.by, key),
      ...found,
      people: found.people.map((one) => (mayNumber(one) ? one : { ...one, number: '' })),
    };
  },

  /** Opening, joiners, moves, leavers and closing by month and value. */
  flows: (asking: Asking, { by, from, until }: { by: DimensionName; from: Day; until: Day }) =>
    monthFlows(asking.facts, { by, from, until, ...partOf(asking) }),
};

// Of an earlier moment only what lies inside by what is recorded now, too: rights are those of now.
const partOf = ({ sight, looking }: Asking): Pick<CrossAsk, 'part' | 'seen'> => {
  const part: Parts = sight.part(COUNTED);
  if (part === 'all' || looking.by === null) return { part };
  return {
    part,
    seen: (place, from, until) =>
      sight.throughout(place, { from: boundOf(from), until: boundOf(until) }, COUNTED),
  };
};

const wholeAsk = (asking: Asking, ask: Ask): CrossAsk => {
  const { looking, facts } = asking;
  return {
    ...ask,
    ...partOf(asking),
    on: looking.on,
    today: looking.today,
    dataFrom: figuresFrom(facts.columns, looking.on),
  };
};

const scopeNames = (labelOf: ReturnType<typeof labels>): ScopeNames => ({
  unit: (id) => labelOf('unit', id).en,
  entity: (id) => labelOf('legalEntity', id).en,
  workerType: (id) => labelOf('workerType', id),
  country: (code, language) => labelOf('country', code)[language],
});

const figuresFrom = (register: Register, on: Day): Day => {
  for (const { values } of register.allOn('organisation', on)) return values.figuresFrom;
  return on;
};

// A thing is named as on the day looked at, else by its latest version.
const labels = ({ facts, looking }: Asking) => {
  const { columns } = facts;
  const named = <S extends 'unit' | 'location' | 'job' | 'legal_entity' | 'list_entry'>(
    section: S,
    id: number,
  ) => columns.at(section, id, looking.on) ?? columns.rows(section, id).at(-1)?.values;
  return (by: DimensionName, key: Key): Label => {
    if (key === null || by === 'whole') return { en: '', de: '' };
    if (by === 'country')
      return {
        en: codeName('en-GB', 'region', String(key)),
        de: codeName('de', 'region', String(key)),
      };
    if (by === 'workerType' || by === 'jobFamily')
      return named('list_entry', Number(key))?.label ?? { en: '', de: '' };
    const section = by === 'division' ? 'unit' : by === 'legalEntity' ? 'legal_entity' : by;
    const name = named(section, Number(key))?.name ?? '';
    return { en: name, de: name };
  };
};

const collator = new Intl.Collator('en');
// No value stands last.
const compareLabels = (a: Label, b: Label): number =>
  Number(a.en === '') - Number(b.en === '') || collator.compare(a.en, b.en);
