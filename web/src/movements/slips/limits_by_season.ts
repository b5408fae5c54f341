import { slip } from '../slip-declared';

/** Limits in a season and outside of it, every year for some years. */
export const declared = slip('limits_by_season', {
  en: {
    submit: 'Complete limits now',
    title: 'Limits by season',
    lead: 'in the season and on the other days, every year; who is over then is named',
    fields: {
      firstDay: 'Season from',
      lastDay: 'Season until',
      years: 'For how many years',
      places: 'Places in the season',
      fte: 'FTE in the season',
      otherPlaces: 'Places else',
      otherFte: 'FTE else',
    },
    notes: {
      years: 'after the last season the other limits hold',
      places: 'left out: as they are',
      otherPlaces: 'left out: as they are',
    },
    needs: { limit: 'a limit in the season or outside of it' },
  },
  de: {
    submit: 'Grenzen jetzt abschließen',
    title: 'Grenzen nach Saison',
    lead: 'in der Saison und an den anderen Tagen, jedes Jahr; wer dann darüber liegt, wird genannt',
    fields: {
      firstDay: 'Saison ab',
      lastDay: 'Saison bis',
      years: 'Für wie viele Jahre',
      places: 'Plätze in der Saison',
      fte: 'VZÄ in der Saison',
      otherPlaces: 'Plätze sonst',
      otherFte: 'VZÄ sonst',
    },
    notes: {
      years: 'nach der letzten Saison gelten die anderen Grenzen',
      places: 'leer: wie sie sind',
      otherPlaces: 'leer: wie sie sind',
    },
    needs: { limit: 'eine Grenze in der Saison oder außerhalb' },
  },
  title: ({ named, words }) => named('positionId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => [['firstDay', 'lastDay'], ['places', 'fte'], ['otherPlaces', 'otherFte'], 'years'],
  current: (path) => (path === 'years' ? 5 : undefined),
  needs: ({ input, words }) =>
    ['places', 'fte', 'otherPlaces', 'otherFte'].some((name) => input[name] !== undefined)
      ? []
      : [words.needs?.['limit'] ?? ''],
  hasBefore: true,
});
