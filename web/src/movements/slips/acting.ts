import { standInHead } from '../employment-slip';
import { slip } from '../slip-declared';

/** Somebody leads a position for the one who holds it, or that nobody holds. */
export const declared = slip('acting', {
  en: {
    submit: 'Let them act now',
    title: 'Which position',
    lead: 'is led by somebody for the time',
    more: 'Reason, a word',
    fields: {
      personId: 'Who acts',
      firstDay: 'First day',
      lastDay: 'Last day',
      'allowance.kindId': 'Allowance',
      'allowance.amount': 'Amount a month',
      'allowance.currency': 'Currency',
      reason: 'A word for the journal',
    },
    notes: {
      lastDay: 'left out: until somebody ends it',
      'allowance.kindId': 'ends with the acting',
    },
    needs: {
      who: 'who acts',
    },
  },
  de: {
    submit: 'Jetzt kommissarisch besetzen',
    title: 'Welche Planstelle',
    lead: 'wird solange kommissarisch geleitet',
    more: 'Grund, ein Wort',
    fields: {
      personId: 'Wer leitet',
      firstDay: 'Erster Tag',
      lastDay: 'Letzter Tag',
      'allowance.kindId': 'Zulage',
      'allowance.amount': 'Betrag im Monat',
      'allowance.currency': 'Währung',
      reason: 'Ein Wort für das Journal',
    },
    notes: {
      lastDay: 'leer: bis es jemand beendet',
      'allowance.kindId': 'endet mit der Leitung',
    },
    needs: {
      who: 'wer leitet',
    },
  },
  ...standInHead,
  title: ({ named, words }) => named('positionId') || words.title,
  rows: () => ['personId', ['firstDay', 'lastDay'], ['allowance.kindId', 'allowance.amount']],
  more: () => ['allowance.currency', 'reasonId', 'reason'],
});
