import { listedFor } from '../fits';
import { lazily } from '../../ui/lazily';
import { slip } from '../slip-declared';

const asTransfer = listedFor('transfer');

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
  title: ({ named, words }) => named('personId') || words.title,
  lead: ({ named, words }) =>
    words.lead.replace('{{where}}', named('positionId') || (words.options?.['elsewhere'] ?? '')),
  rows: ({ about, input }) => [
    ...(about.kind === 'person' ? [] : ['personId']),
    ...(about.kind === 'position' && input['positionId'] ? [] : ['positionId']),
    ['firstDay', 'lastDay'],
    ['hours', 'oldPlace'],
    'reasonId',
  ],
  more: () => ['wishedBy', ['above.aboveReason', 'above.reviewOn'], 'reason'],
  current: (path) => (path === 'oldPlace' ? 'kept' : undefined),
  needs: ({ input, words }) => (input['positionId'] ? [] : [words.needs?.['where'] ?? '']),
  fits: asTransfer,
  reads: ({ positionId }) => ({ positions: [positionId] }),
  hasBefore: true,
  returns: true,
  picture: lazily(async () => (await import('../two-places')).TwoPlaces),
});
