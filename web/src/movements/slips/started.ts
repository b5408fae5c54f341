import { slip } from '../slip-declared';

/** The real day on which somebody started, where it is not the planned one. */
export const declared = slip('started', {
  en: {
    submit: 'Record the real day now',
    title: 'Who',
    lead: 'started on another day than was planned; contract and pay keep the agreed day',
    fields: { firstDay: 'Started on', reason: 'A word, where the place was taken' },
  },
  de: {
    submit: 'Wirklichen Tag jetzt erfassen',
    title: 'Wer',
    lead: 'hat an einem anderen Tag begonnen als geplant; Vertrag und Entgelt behalten den vereinbarten Tag',
    fields: { firstDay: 'Begonnen am', reason: 'Ein Wort, wo der Platz besetzt war' },
  },
  title: ({ named, words }) => named('placementId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => ['firstDay', 'reason'],
  hasBefore: true,
});
