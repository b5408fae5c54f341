import { copyExceptions, partOptions } from '../job-slip';
import { slip } from '../slip-declared';

/** Parts of another job into this one: what is empty is filled, lists are added to. */
export const declared = slip('copy_into_job', {
  en: {
    submit: 'Complete copying now',
    title: 'A job',
    lead: 'takes parts of another one: what is empty is filled, lists are added to, nothing is overwritten',
    fields: { firstDay: 'From', likeId: 'Out of', parts: 'Parts to copy' },
    notes: { parts: 'single entries can be left out below' },
    options: partOptions.en,
    needs: { leave: 'leave out', copy: 'copy it after all', keep: 'keep its own', follow: 'follow the job' },
  },
  de: {
    submit: 'Übernahme jetzt abschließen',
    title: 'Eine Tätigkeit',
    lead: 'übernimmt Teile einer anderen: Leeres wird gefüllt, Listen werden ergänzt, nichts überschrieben',
    fields: { firstDay: 'Ab', likeId: 'Aus', parts: 'Zu übernehmende Teile' },
    notes: { parts: 'einzelne Einträge lassen sich unten auslassen' },
    options: partOptions.de,
    needs: {
      leave: 'auslassen',
      copy: 'doch übernehmen',
      keep: 'Eigenes behalten',
      follow: 'der Tätigkeit folgen',
    },
  },
  title: ({ named, words }) => named('jobId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => ['likeId', 'firstDay', 'parts'],
  exceptions: copyExceptions,
  hasBefore: true,
});
