import { slip } from '../slip-declared';

/** Another last day of a transfer for a time. */
export const declared = slip('change_return', {
  en: {
    submit: 'Change return now',
    title: 'Who',
    lead: 'stays longer, or comes back earlier',
    fields: { lastDay: 'Last day there', reason: 'A word for the journal' },
  },
  de: {
    submit: 'Rückkehr jetzt ändern',
    title: 'Wer',
    lead: 'bleibt länger oder kommt früher zurück',
    fields: { lastDay: 'Letzter Tag dort', reason: 'Ein Wort für das Journal' },
  },
  title: ({ named, words }) => named('placementId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => ['lastDay', 'reason'],
  hasBefore: true,
});
