import { slip } from '../slip-declared';

/** Another last day of a cover, of acting, of a second place. */
export const declared = slip('end_stand_in', {
  en: {
    submit: 'Set the last day now',
    title: 'Who',
    lead: 'stands in, or works there, until another day',
    fields: {
      lastDay: 'Last day there',
      reason: 'A word for the journal',
    },
  },
  de: {
    submit: 'Letzten Tag jetzt setzen',
    title: 'Wer',
    lead: 'vertritt, oder arbeitet dort, bis zu einem anderen Tag',
    fields: {
      lastDay: 'Letzter Tag dort',
      reason: 'Ein Wort für das Journal',
    },
  },
  title: ({ named, words }) => named('standInId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => ['lastDay', 'reason'],
  hasBefore: true,
});
