import { slip } from '../slip-declared';

/** A unit merged into another one from a day on. */
export const declared = slip('merge_unit', {
  en: {
    submit: 'Complete merging now',
    title: 'A unit',
    lead: 'merges into another one; all that stands in it moves there, and it closes the day before',
    fields: { firstDay: 'From', intoId: 'Into' },
  },
  de: {
    submit: 'Zusammenlegung jetzt abschließen',
    title: 'Eine Einheit',
    lead: 'geht in einer anderen auf; alles in ihr wandert dorthin, und sie schließt am Tag davor',
    fields: { firstDay: 'Ab', intoId: 'In' },
  },
  title: ({ named, words }) => named('unitId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => ['intoId', 'firstDay'],
  reads: ({ unitId }) => ({ units: [unitId] }),
});
