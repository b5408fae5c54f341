// What a record says as a file, beside its sections and fields.

const en = {
  number: 'Number',
  on: 'As in effect on',
  recorded: 'As recorded by',
  entry: 'entry',
  by: 'Taken out by',
  since: (day: string) => `since ${day}`,
  until: (day: string) => `until ${day}`,
  page: (at: number, of: number) => `Page ${at} of ${of}`,
  nothing: 'Nothing of this record is in effect on this day.',
};

const de: typeof en = {
  number: 'Nummer',
  on: 'Gültig am',
  recorded: 'Erfasst bis',
  entry: 'Eintrag',
  by: 'Ausgegeben von',
  since: (day) => `seit ${day}`,
  until: (day) => `bis ${day}`,
  page: (at, of) => `Seite ${at} von ${of}`,
  nothing: 'An diesem Tag gilt nichts aus diesem Datensatz.',
};

/** Words of a record that is taken out, in both languages. */
export const recordFileWords = { en, de };
