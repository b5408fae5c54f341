import { slip } from '../slip-declared';

/** Those who are due reach the next step, each on the day of their own. */
export const declared = slip('apply_steps', {
  en: {
    submit: 'Apply next steps now',
    title: 'Next steps',
    lead: 'whoever is due by a day reaches the next step, each on their own day; one entry',
    fields: { firstDay: 'Due by' },
  },
  de: {
    submit: 'Stufenaufstiege jetzt anwenden',
    title: 'Stufenaufstiege',
    lead: 'wer bis zu einem Tag an der Reihe ist, erreicht die nächste Stufe, jede Person an ihrem Tag; ein Eintrag',
    fields: { firstDay: 'Fällig bis' },
  },
  title: ({ words }) => words.title,
  lead: ({ words }) => words.lead,
  rows: () => ['firstDay'],
});
