import { daysNow, employmentHead } from '../employment-slip';
import { slip } from '../slip-declared';

/** Other days of an absence, or another kind. */
export const declared = slip('change_absence', {
  en: {
    submit: 'Change absence now',
    title: 'Who',
    lead: 'is away on other days',
    more: 'Expected end, notes, a word',
    fields: {
      firstDay: 'First day away',
      lastDay: 'Last day away',
      kindId: 'Why',
      expectedUntil: 'Expected until',
      reason: 'A word for the journal',
    },
    notes: {
      kindId: 'left out: as it is',
      lastDay: 'emptied: nobody knows yet',
    },
  },
  de: {
    submit: 'Abwesenheit jetzt ändern',
    title: 'Wer',
    lead: 'ist an anderen Tagen abwesend',
    more: 'Voraussichtliches Ende, Anmerkungen, ein Wort',
    fields: {
      firstDay: 'Erster Tag abwesend',
      lastDay: 'Letzter Tag abwesend',
      kindId: 'Weshalb',
      expectedUntil: 'Voraussichtlich bis',
      reason: 'Ein Wort für das Journal',
    },
    notes: {
      kindId: 'leer: wie bisher',
      lastDay: 'geleert: noch nicht bekannt',
    },
  },
  ...employmentHead,
  title: ({ named, words }) => named('absenceId') || words.title,
  current: (path, context) =>
    path === 'firstDay' || path === 'lastDay' ? daysNow(context, 'absence')?.[path] : undefined,
  rows: () => [['firstDay', 'lastDay'], 'kindId'],
  more: () => ['expectedUntil', 'notes', 'reason'],
});
