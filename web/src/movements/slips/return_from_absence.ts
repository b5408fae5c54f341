import { employmentHead, withoutEmptySteps } from '../employment-slip';
import { slip } from '../slip-declared';

/** Somebody is back from a long absence: on which day, with how many hours, in which steps. */
export const declared = slip('return_from_absence', {
  en: {
    submit: 'Record return now',
    title: 'Who',
    lead: 'is back; recorded also where the place is taken',
    more: 'Step by step, above the limits',
    fields: {
      firstDay: 'First day back',
      hours: 'Hours a week from then on',
      'steps.0.from': 'More from',
      'steps.0.hours': 'Hours a week then',
      'steps.1.from': 'Still more from',
      'steps.1.hours': 'Hours a week then',
      reason: 'A word, where the place is taken',
      awayHours: 'Hours away',
    },
    notes: {
      hours: 'left out: all; the absence is over',
    },
  },
  de: {
    submit: 'Rückkehr jetzt erfassen',
    title: 'Wer',
    lead: 'ist zurück; wird auch erfasst, wo der Platz besetzt ist',
    more: 'Stufenweise, über den Grenzen',
    fields: {
      firstDay: 'Erster Tag zurück',
      hours: 'Stunden je Woche von da an',
      'steps.0.from': 'Mehr ab',
      'steps.0.hours': 'Stunden je Woche dann',
      'steps.1.from': 'Noch mehr ab',
      'steps.1.hours': 'Stunden je Woche dann',
      reason: 'Ein Wort, wo der Platz besetzt ist',
      awayHours: 'Abwesende Stunden',
    },
    notes: {
      hours: 'leer: alle; die Abwesenheit ist zu Ende',
    },
  },
  ...employmentHead,
  rows: () => [['firstDay', 'hours'], 'reason'],
  more: () => [
    ['steps.0.from', 'steps.0.hours'],
    ['steps.1.from', 'steps.1.hours'],
    ['above.aboveReason', 'above.reviewOn'],
  ],
  prepare: (input) => withoutEmptySteps(input),
});
