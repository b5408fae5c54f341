import { lazily } from '../../ui/lazily';
import { slip } from '../slip-declared';
import { transferHead, whoAndWhere } from '../transfer-head';

/** A transfer for a time: who, where to, from when to when, with how much of their hours, and what becomes of the old place. */
export const declared = slip('transfer_for_a_time', {
  en: {
    submit: 'Complete transfer now',
    title: 'Who',
    lead: 'to {{where}}, and back',
    more: 'At whose wish, above the limits, a word',
    fields: {
      personId: 'Who',
      positionId: 'To which position',
      firstDay: 'First day there',
      lastDay: 'Last day there',
      hours: 'Hours a week there',
      oldPlace: 'The old place is',
      wishedBy: 'At whose wish',
      reason: 'A word for the journal',
      lentHours: 'Hours lent by the old place',
    },
    notes: { hours: 'left out: all that there are' },
    options: {
      elsewhere: 'another position',
      kept: 'kept: held, away',
      backfilled: 'backfilled: free for others',
      the_person: 'own wish',
      employer: 'by the employer',
    },
    needs: { where: 'where to' },
  },
  de: {
    submit: 'Abordnung jetzt abschließen',
    title: 'Wer',
    lead: 'in {{where}}, und zurück',
    more: 'Auf wessen Wunsch, über den Grenzen, ein Wort',
    fields: {
      personId: 'Wer',
      positionId: 'In welche Planstelle',
      firstDay: 'Erster Tag dort',
      lastDay: 'Letzter Tag dort',
      hours: 'Stunden je Woche dort',
      oldPlace: 'Der alte Platz',
      wishedBy: 'Auf wessen Wunsch',
      reason: 'Ein Wort für das Journal',
      lentHours: 'Vom alten Platz verliehene Stunden',
    },
    notes: { hours: 'leer: alle, die da sind' },
    options: {
      elsewhere: 'eine andere Planstelle',
      kept: 'bleibt gehalten, abwesend',
      backfilled: 'ist frei für andere',
      the_person: 'eigener Wunsch',
      employer: 'durch uns',
    },
    needs: { where: 'wohin' },
  },
  ...transferHead,
  rows: (context) => [...whoAndWhere(context), ['firstDay', 'lastDay'], ['hours', 'oldPlace'], 'reasonId'],
  more: () => ['wishedBy', ['above.aboveReason', 'above.reviewOn'], 'reason'],
  current: (path) => (path === 'oldPlace' ? 'kept' : undefined),
  returns: true,
  picture: lazily(async () => (await import('../two-places')).TwoPlaces),
});
