import { listedFor } from '../fits';
import { slip } from '../slip-declared';

/** A permanent transfer: who, where to, from which day, why. */
export const declared = slip('transfer', {
  en: {
    submit: 'Complete transfer now',
    title: 'Who',
    lead: 'to {{where}}',
    more: 'Above the limits, by right',
    fields: { personId: 'Who', positionId: 'To which position', firstDay: 'First day' },
    notes: { hours: 'left out: those of the position' },
    options: { elsewhere: 'another position' },
    needs: { where: 'where to', who: 'who' },
  },
  de: {
    submit: 'Versetzung jetzt abschließen',
    title: 'Wer',
    lead: 'in {{where}}',
    more: 'Über den Grenzen, kraft eines Rechts',
    fields: { personId: 'Wer', positionId: 'In welche Planstelle', firstDay: 'Erster Tag' },
    notes: { hours: 'leer: die der Planstelle' },
    options: { elsewhere: 'eine andere Planstelle' },
    needs: { where: 'wohin', who: 'wer' },
  },
  title: ({ named, words }) => named('personId') || words.title,
  lead: ({ named, words }) =>
    words.lead.replace('{{where}}', named('positionId') || (words.options?.['elsewhere'] ?? '')),
  rows: ({ about, input }) => [
    ...(about.kind === 'person' ? [] : ['personId']),
    ...(about.kind === 'position' && input['positionId'] ? [] : ['positionId']),
    ['firstDay', 'hours'],
    'reasonId',
  ],
  more: () => [['above.aboveReason', 'above.reviewOn']],
  needs: ({ input, words }) => (input['positionId'] ? [] : [words.needs?.['where'] ?? '']),
  fits: listedFor('transfer'),
  reads: ({ positionId }) => ({ positions: [positionId] }),
  hasBefore: true,
});
