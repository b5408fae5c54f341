import { daysNow, employmentHead } from '../employment-slip';
import { slip } from '../slip-declared';

/** An employment with a last day goes on longer, or for good. */
export const declared = slip('extend', {
  en: {
    submit: 'Extend now',
    title: 'Who',
    lead: 'stays longer; place, contract and pay go on',
    more: 'Another kind of contract, above the limits, a word',
    fields: {
      lastDay: 'New last day',
      contractKindId: 'Contract from then on',
      fixedGround: 'Why it is fixed',
      reason: 'A word for the journal',
    },
    notes: {
      lastDay: 'emptied: without a last day',
      contractKindId: 'left out: the one there is, fixed until the new last day',
    },
    needs: { day: 'another last day, or none' },
  },
  de: {
    submit: 'Jetzt verlängern',
    title: 'Wer',
    lead: 'bleibt länger; Platz, Vertrag und Entgelt gehen weiter',
    more: 'Andere Vertragsart, über den Grenzen, ein Wort',
    fields: {
      lastDay: 'Neuer letzter Tag',
      contractKindId: 'Vertrag von da an',
      fixedGround: 'Grund der Befristung',
      reason: 'Ein Wort für das Journal',
    },
    notes: {
      lastDay: 'geleert: ohne letzten Tag',
      contractKindId: 'leer: wie bisher, befristet bis zum neuen letzten Tag',
    },
    needs: { day: 'ein anderer letzter Tag, oder keiner' },
  },
  ...employmentHead,
  current: (path, context) => (path === 'lastDay' ? daysNow(context, 'employment')?.lastDay : undefined),
  needs: ({ input, words }) => (input['lastDay'] === undefined ? [words.needs?.['day'] ?? ''] : []),
  hidden: ['value_missing'],
  rows: () => ['lastDay', 'fixedGround'],
  more: () => ['contractKindId', ['above.aboveReason', 'above.reviewOn'], 'reason'],
});
