import { contractNow, employmentHead, payNowInWords, payThenInWords, placeNow } from '../employment-slip';
import { slip } from '../slip-declared';

/** Other terms from a day: hours, contract, and what is paid for them. */
export const declared = slip('change_terms', {
  en: {
    submit: 'Change terms now',
    title: 'Who',
    lead: 'works on other terms',
    more: 'Last day, probation, notice, pay, above the limits, a word',
    fields: {
      firstDay: 'From',
      lastDay: 'Last day of the other hours',
      hours: 'Hours a week',
      'pay.0.amount': 'New pay',
      reason: 'A word for the journal',
    },
    notes: {
      lastDay: 'left out: for good',
      'contract.kindId': 'of another kind: a new contract follows the one there is',
    },
    needs: { said: 'what changes' },
  },
  de: {
    submit: 'Bedingungen jetzt ändern',
    title: 'Wer',
    lead: 'arbeitet zu anderen Bedingungen',
    more: 'Letzter Tag, Probezeit, Kündigungsfrist, Entgelt, über den Grenzen, ein Wort',
    fields: {
      firstDay: 'Ab',
      lastDay: 'Letzter Tag der anderen Stunden',
      hours: 'Stunden je Woche',
      'pay.0.amount': 'Neues Entgelt',
      reason: 'Ein Wort für das Journal',
    },
    notes: {
      lastDay: 'leer: auf Dauer',
      'contract.kindId': 'von anderer Art: ein neuer Vertrag folgt dem, den es gibt',
    },
    needs: { said: 'was sich ändert' },
  },
  ...employmentHead,
  rows: () => [['firstDay', 'hours'], ['contract.kindId', 'contract.fixedUntil'], 'reasonId'],
  more: () => [
    'lastDay',
    'contract.fixedGround',
    ['contract.probation', 'contract.probationUntil'],
    ['contract.noticeByEmployeeDays', 'contract.noticeByEmployerDays'],
    ['contract.daysAWeek', 'contract.signedOn'],
    'pay.0.amount',
    ['above.aboveReason', 'above.reviewOn'],
    'reason',
  ],
  current: (path, context) => {
    if (path === 'hours') return placeNow(context)?.hours;
    const [of, field] = path.split('.');
    return of === 'contract' ? (contractNow(context)?.[field as 'kindId'] ?? undefined) : undefined;
  },
  needs: ({ input, words }) => {
    const said = [input['hours'], ...Object.values((input['contract'] ?? {}) as object), input['pay']];
    return said.some((value) => value !== undefined) ? [] : [words.needs?.['said'] ?? ''];
  },
  hidden: ['value_missing'],
  note: (path, context) => (path === 'pay.0.amount' ? payNowInWords(context) : undefined),
  understood: (path, value, context) =>
    path === 'pay.0.amount' ? payThenInWords(value, context) : undefined,
});
