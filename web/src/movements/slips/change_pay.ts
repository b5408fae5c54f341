import { employmentHead, payNow, payNowInWords, payThenInWords } from '../employment-slip';
import { slip } from '../slip-declared';

/** Other pay from a day: how much, of what kind, why. */
export const declared = slip('change_pay', {
  en: {
    submit: 'Change pay now',
    title: 'Who',
    lead: 'is paid differently',
    more: 'Kind, currency, what it is for, later changes, a word',
    fields: {
      firstDay: 'From',
      'pay.0.amount': 'New amount',
      'pay.0.kindId': 'Which pay',
      laterOnes: 'Later planned changes',
      reason: 'A word for the journal',
    },
    notes: { 'pay.0.kindId': 'left out: base pay' },
    options: { keep: 'stay as planned', replace: 'give way to this' },
  },
  de: {
    submit: 'Entgelt jetzt ändern',
    title: 'Wer',
    lead: 'wird anders bezahlt',
    more: 'Art, Währung, wofür, spätere Änderungen, ein Wort',
    fields: {
      firstDay: 'Ab',
      'pay.0.amount': 'Neuer Betrag',
      'pay.0.kindId': 'Welches Entgelt',
      laterOnes: 'Spätere geplante Änderungen',
      reason: 'Ein Wort für das Journal',
    },
    notes: { 'pay.0.kindId': 'leer: das Grundentgelt' },
    options: { keep: 'bleiben wie geplant', replace: 'weichen dieser' },
  },
  ...employmentHead,
  rows: () => [['firstDay', 'pay.0.amount'], 'reasonId'],
  more: () => [
    ['pay.0.kindId', 'pay.0.currency'],
    ['pay.0.basis', 'pay.0.rate'],
    ['pay.0.step', 'pay.0.timesAYear'],
    'laterOnes',
    'reason',
  ],
  current: (path, context) => {
    const [list, , field] = path.split('.');
    if (list !== 'pay' || field === undefined || field === 'amount' || field === 'kindId') return undefined;
    return payNow(context)?.values[field as 'basis'] ?? undefined;
  },
  hidden: ['value_missing'],
  note: (path, context) => (path === 'pay.0.amount' ? payNowInWords(context) : undefined),
  understood: (path, value, context) =>
    path === 'pay.0.amount' ? payThenInWords(value, context) : undefined,
});
