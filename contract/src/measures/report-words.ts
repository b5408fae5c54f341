// Words of reports that are taken out, in both languages, beside those they share with the pages (`measureWords`).
/** Words of the head of a file: what it shows, as of when, by whom. */
export type ReportHeads = {
  inEffect: string;
  recorded: string;
  entry: string;
  part: string;
  narrowed: string;
  all: string;
  none: string;
  /** Of a column with every digit beside what is shown. */
  exactly: string;
};

/** Heads of the lines above a table. */
export const reportHeads: Record<'en' | 'de', ReportHeads> = {
  en: {
    inEffect: 'In effect on',
    recorded: 'As recorded by',
    entry: 'after entry',
    part: 'People in',
    narrowed: 'Narrowed to',
    all: 'All',
    none: 'None',
    exactly: 'exactly',
  },
  de: {
    inEffect: 'Gültig am',
    recorded: 'Bekannt bis',
    entry: 'nach Eintrag',
    part: 'Personen in',
    narrowed: 'Eingegrenzt auf',
    all: 'Alle',
    none: 'Ohne',
    exactly: 'genau',
  },
};

type Word =
  'number' | 'name' | 'title' | 'unit' | 'firstDay' | 'lastDay' | 'class' | 'people' | 'leavers' | 'mean';

/** Heads of the people behind a figure, and of what it is made of. */
export const figureHeads: Record<'en' | 'de', Record<Word, string>> = {
  en: {
    number: 'Person number',
    name: 'Name',
    title: 'Title',
    unit: 'Unit',
    firstDay: 'First day',
    lastDay: 'Last day',
    class: 'Reason class',
    people: 'People',
    leavers: 'Leavers of the twelve months',
    mean: 'Mean headcount at their closes',
  },
  de: {
    number: 'Personalnummer',
    name: 'Name',
    title: 'Stellentitel',
    unit: 'Einheit',
    firstDay: 'Erster Tag',
    lastDay: 'Letzter Tag',
    class: 'Grund',
    people: 'Personen',
    leavers: 'Austritte der zwölf Monate',
    mean: 'Mittlerer Personalbestand an ihren Enden',
  },
};
