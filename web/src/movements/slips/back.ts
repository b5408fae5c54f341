import { slip } from '../slip-declared';

/** Somebody is back from a transfer for a time, on another day than was planned. */
export const declared = slip('back', {
  en: {
    submit: 'Record the return now',
    title: 'Who',
    lead: 'is back; recorded also where the old place is taken',
    fields: { firstDay: 'First day back', reason: 'A word, where the place is taken' },
  },
  de: {
    submit: 'Rückkehr jetzt erfassen',
    title: 'Wer',
    lead: 'ist zurück; wird auch erfasst, wo der alte Platz besetzt ist',
    fields: { firstDay: 'Erster Tag zurück', reason: 'Ein Wort, wo der Platz besetzt ist' },
  },
  title: ({ named, words }) => named('placementId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => ['firstDay', 'reason'],
  hasBefore: true,
});
