import { employmentHead } from '../employment-slip';
import { slip } from '../slip-declared';

/** Somebody is away for long: from when to when, why, and what becomes of the place. */
export const declared = slip('long_absence', {
  en: {
    submit: 'Record absence now',
    title: 'Who',
    lead: 'is away for long',
    more: 'A part of the hours, expected end, notes, a word',
    fields: {
      firstDay: 'First day away',
      lastDay: 'Last day away',
      kindId: 'Why',
      hours: 'Hours a week away',
      oldPlace: 'The place is',
      expectedUntil: 'Expected until',
      reason: 'A word for the journal',
      awayHours: 'Hours away',
    },
    notes: {
      lastDay: 'left out: nobody knows yet',
      hours: 'left out: all hours',
      kindId: 'seen only by whoever sees absences',
    },
    options: {
      kept: 'kept: held, away',
      backfilled: 'backfilled: free for others',
    },
  },
  de: {
    submit: 'Abwesenheit jetzt erfassen',
    title: 'Wer',
    lead: 'ist lange abwesend',
    more: 'Ein Teil der Stunden, voraussichtliches Ende, Anmerkungen, ein Wort',
    fields: {
      firstDay: 'Erster Tag abwesend',
      lastDay: 'Letzter Tag abwesend',
      kindId: 'Weshalb',
      hours: 'Abwesende Stunden je Woche',
      oldPlace: 'Der Platz',
      expectedUntil: 'Voraussichtlich bis',
      reason: 'Ein Wort für das Journal',
      awayHours: 'Abwesende Stunden',
    },
    notes: {
      lastDay: 'leer: noch nicht bekannt',
      hours: 'leer: alle Stunden',
      kindId: 'sieht nur, wer Abwesenheiten sieht',
    },
    options: {
      kept: 'bleibt gehalten, abwesend',
      backfilled: 'ist frei für andere',
    },
  },
  ...employmentHead,
  rows: () => [
    ['firstDay', 'lastDay'],
    ['kindId', 'oldPlace'],
  ],
  more: () => [['hours', 'expectedUntil'], 'notes', 'reason'],
  current: (path) => (path === 'oldPlace' ? 'kept' : undefined),
});
