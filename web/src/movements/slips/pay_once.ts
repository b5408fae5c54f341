import { employmentHead } from '../employment-slip';
import { slip } from '../slip-declared';

/** Something paid once. */
export const declared = slip('pay_once', {
  en: {
    submit: 'Record payment now',
    title: 'Who',
    lead: 'is paid something once',
    more: 'Currency, reason, a word',
    fields: { paidOn: 'Paid on', kindId: 'What for', reason: 'A word for the journal' },
    notes: { currency: 'left out: that of the legal entity' },
  },
  de: {
    submit: 'Zahlung jetzt erfassen',
    title: 'Wer',
    lead: 'erhält etwas einmal',
    more: 'Währung, Grund, ein Wort',
    fields: { paidOn: 'Gezahlt am', kindId: 'Wofür', reason: 'Ein Wort für das Journal' },
    notes: { currency: 'leer: die der juristischen Einheit' },
  },
  ...employmentHead,
  rows: () => [['paidOn', 'amount'], 'kindId'],
  more: () => [['currency', 'reasonId'], 'reason'],
});
