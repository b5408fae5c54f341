import { standInHead } from '../employment-slip';
import { slip } from '../slip-declared';

/** A second place beside the primary one. */
export const declared = slip('second_placement', {
  en: {
    submit: 'Give the second place now',
    title: 'Who',
    lead: 'also works at a second place',
    more: 'Reason, above the limits, a word',
    fields: {
      positionId: 'At which position',
      firstDay: 'First day',
      lastDay: 'Last day',
      hours: 'Hours a week there',
      reason: 'A word for the journal',
    },
    notes: {
      lastDay: 'left out: for good',
    },
    needs: {
      where: 'where',
    },
  },
  de: {
    submit: 'Zweiten Platz jetzt geben',
    title: 'Wer',
    lead: 'arbeitet auch an einem zweiten Platz',
    more: 'Grund, über den Grenzen, ein Wort',
    fields: {
      positionId: 'In welcher Planstelle',
      firstDay: 'Erster Tag',
      lastDay: 'Letzter Tag',
      hours: 'Stunden je Woche dort',
      reason: 'Ein Wort für das Journal',
    },
    notes: {
      lastDay: 'leer: auf Dauer',
    },
    needs: {
      where: 'wo',
    },
  },
  ...standInHead,
  title: ({ named, words }) => named('personId') || words.title,
  rows: () => ['positionId', ['firstDay', 'lastDay'], 'hours'],
  more: () => ['reasonId', ['above.aboveReason', 'above.reviewOn'], 'reason'],
});
