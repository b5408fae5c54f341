import { notedPay, understoodPay } from '../hire-terms';
import { slip } from '../slip-declared';
import { transferHead, whoAndWhere } from '../transfer-head';

/** A permanent transfer: who, where to, from which day, why. */
export const declared = slip('transfer', {
  en: {
    submit: 'Complete transfer now',
    title: 'Who',
    lead: 'to {{where}}',
    more: 'At whose wish, above the limits, a word',
    fields: {
      personId: 'Who',
      positionId: 'To which position',
      firstDay: 'First day',
      'pay.0.amount': 'New pay a month',
      wishedBy: 'At whose wish',
    },
    notes: { hours: 'left out: those of the position', 'pay.0.amount': 'left out: pay goes on as it is' },
    options: { elsewhere: 'another position', the_person: 'own wish', employer: 'by the employer' },
    needs: { where: 'where to', who: 'who' },
  },
  de: {
    submit: 'Versetzung jetzt abschließen',
    title: 'Wer',
    lead: 'in {{where}}',
    more: 'Auf wessen Wunsch, über den Grenzen, ein Wort',
    fields: {
      personId: 'Wer',
      positionId: 'In welche Planstelle',
      firstDay: 'Erster Tag',
      'pay.0.amount': 'Neues Entgelt im Monat',
      wishedBy: 'Auf wessen Wunsch',
    },
    notes: { hours: 'leer: die der Planstelle', 'pay.0.amount': 'leer: das Entgelt bleibt' },
    options: { elsewhere: 'eine andere Planstelle', the_person: 'eigener Wunsch', employer: 'durch uns' },
    needs: { where: 'wohin', who: 'wer' },
  },
  ...transferHead,
  rows: (context) => [...whoAndWhere(context), ['firstDay', 'hours'], ['pay.0.amount', 'reasonId']],
  more: () => ['wishedBy', ['above.aboveReason', 'above.reviewOn'], 'reason'],
  understood: understoodPay,
  note: notedPay,
});
