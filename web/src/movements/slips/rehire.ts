import { listedFor } from '../fits';
import { hireMore, hireRows, hireTerms, notedPay, understoodPay } from '../hire-terms';
import { slip } from '../slip-declared';

/** Somebody known comes back: the record and the old number stay. */
export const declared = slip('rehire', {
  en: {
    submit: 'Complete rehire now',
    title: 'Who',
    lead: 'comes back; the record and the number stay',
    more: 'Fixed term, hours, location, above the limits',
    fields: {
      positionId: 'Into which position',
      'pay.0.amount': 'Pay a month',
      'contract.kindId': 'Contract',
      firstDay: 'First day',
      lastDay: 'Last day, if fixed',
    },
    notes: { hours: 'left out: those of the position' },
    needs: { place: 'a position, or a unit that hires by job' },
  },
  de: {
    submit: 'Wiedereinstellung jetzt abschließen',
    title: 'Wer',
    lead: 'kommt zurück; Datensatz und Nummer bleiben',
    more: 'Befristung, Stunden, Standort, über den Grenzen',
    fields: {
      positionId: 'In welche Planstelle',
      'pay.0.amount': 'Entgelt im Monat',
      'contract.kindId': 'Vertrag',
      firstDay: 'Erster Tag',
      lastDay: 'Letzter Tag, falls befristet',
    },
    notes: { hours: 'leer: die der Planstelle' },
    needs: { place: 'eine Planstelle oder eine Einheit, die nach Tätigkeit einstellt' },
  },
  title: ({ named, words }) => named('personId') || words.title,
  lead: ({ words }) => words.lead,
  rows: (context) => ['positionId', ...(context.input['positionId'] ? [] : ['unitId']), ...hireRows(context)],
  more: () => ['lastDay', ...hireMore],
  prepare: hireTerms,
  needs: ({ input, words }) =>
    input['positionId'] || (input['unitId'] && input['jobId']) ? [] : [words.needs?.['place'] ?? ''],
  understood: understoodPay,
  note: notedPay,
  fits: listedFor('hire'),
  reads: ({ positionId }) => ({ positions: [positionId] }),
});
