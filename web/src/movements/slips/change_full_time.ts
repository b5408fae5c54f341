import { slip } from '../slip-declared';

/** Other full-time hours from a day on, for the organisation, a location or a collective agreement. */
export const declared = slip('change_full_time', {
  en: {
    submit: 'Complete change now',
    title: 'Full-time hours',
    lead: 'from a day on; whoever holds a share by them keeps the share or the hours',
    fields: {
      firstDay: 'From',
      fullTime: 'Full-time hours a week',
      locationId: 'Of the location',
      agreementId: 'Of the agreement',
      keep: 'Who holds a share by them',
    },
    notes: {
      locationId: 'left out: of the organisation',
      agreementId: 'before those of the location',
      keep: 'each one can be decided otherwise below',
    },
    options: { share: 'keeps the share', hours: 'keeps the hours' },
    needs: { keepShare: 'keep the share', keepHours: 'keep the hours' },
  },
  de: {
    submit: 'Änderung jetzt abschließen',
    title: 'Vollzeitstunden',
    lead: 'von einem Tag an; wer einen Anteil daran hat, behält den Anteil oder die Stunden',
    fields: {
      firstDay: 'Ab',
      fullTime: 'Vollzeitstunden je Woche',
      locationId: 'Des Standorts',
      agreementId: 'Des Tarifvertrags',
      keep: 'Wer einen Anteil daran hat',
    },
    notes: {
      locationId: 'leer: der Organisation',
      agreementId: 'vor denen des Standorts',
      keep: 'jede und jeder kann unten anders entschieden werden',
    },
    options: { share: 'behält den Anteil', hours: 'behält die Stunden' },
    needs: { keepShare: 'Anteil behalten', keepHours: 'Stunden behalten' },
  },
  title: ({ words, named }) =>
    [words.title, named('agreementId') || named('locationId')].filter(Boolean).join(', '),
  lead: ({ words }) => words.lead,
  rows: () => [['fullTime', 'firstDay'], 'keep', ['locationId', 'agreementId']],
  current: (path) => (path === 'keep' ? 'share' : undefined),
  exceptions: {
    path: 'others',
    word: (isOther, { input, words }) =>
      words.needs?.[((input['keep'] ?? 'share') === 'share') !== isOther ? 'keepHours' : 'keepShare'] ?? '',
  },
  hasBefore: true,
});
