import { slip } from '../slip-declared';

/** The end of a unit in which nothing stands any more. */
export const declared = slip('close_unit', {
  en: {
    submit: 'Complete closing now',
    title: 'A unit',
    lead: 'closes; what still stands in it is named',
    fields: { lastDay: 'Last day' },
  },
  de: {
    submit: 'Schließung jetzt abschließen',
    title: 'Eine Einheit',
    lead: 'schließt; was noch darin steht, wird genannt',
    fields: { lastDay: 'Letzter Tag' },
  },
  title: ({ named, words }) => named('unitId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => ['lastDay'],
});
