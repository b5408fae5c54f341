import { standInHead } from '../employment-slip';
import { slip } from '../slip-declared';

/** Somebody works what another one who is away cannot. */
export const declared = slip('cover', {
  en: {
    submit: 'Arrange cover now',
    title: 'Whose work',
    lead: 'is covered meanwhile',
    more: 'Reason, a word',
    fields: {
      personId: 'Who covers',
      firstDay: 'First day',
      lastDay: 'Last day',
      hours: 'Hours a week',
      reason: 'A word for the journal',
    },
    notes: {
      lastDay: 'left out: as long as they are away',
      hours: 'left out: all that is away',
    },
    needs: {
      who: 'who covers',
    },
  },
  de: {
    submit: 'Vertretung jetzt regeln',
    title: 'Wessen Arbeit',
    lead: 'wird solange vertreten',
    more: 'Grund, ein Wort',
    fields: {
      personId: 'Wer vertritt',
      firstDay: 'Erster Tag',
      lastDay: 'Letzter Tag',
      hours: 'Stunden je Woche',
      reason: 'Ein Wort für das Journal',
    },
    notes: {
      lastDay: 'leer: solange die Abwesenheit dauert',
      hours: 'leer: alles, was fehlt',
    },
    needs: {
      who: 'wer vertritt',
    },
  },
  ...standInHead,
  title: ({ named, words }) => named('awayEmploymentId') || words.title,
  rows: () => ['personId', ['firstDay', 'lastDay'], 'hours'],
  more: () => ['reasonId', 'reason'],
});
