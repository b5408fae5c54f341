import { positionRest } from '../position-slip';
import { slip } from '../slip-declared';

/** A position that begins; what is not said comes from its job. */
export const declared = slip('new_position', {
  en: {
    submit: 'Complete new position now',
    title: 'A new position',
    lead: 'in {{where}}',
    more: 'Code, grade, hours, location, reporting line and the rest',
    fields: { firstDay: 'From', fte: 'FTE limit', reportsToId: 'Reports to', count: 'How many alike' },
    notes: {
      title: 'left out: that of the job',
      gradeId: 'left out: that of the job',
      hours: 'left out: those of the job',
      fte: 'left out: that of the job',
      places: 'left out: 1',
      code: 'left out: proposed',
      count: 'left out: one',
      locationId: 'left out: that of the unit',
      reportsToId: 'left out: the head of the unit',
    },
  },
  de: {
    submit: 'Neue Planstelle jetzt abschließen',
    title: 'Eine neue Planstelle',
    lead: 'in {{where}}',
    more: 'Code, Entgeltgruppe, Stunden, Standort, Berichtslinie und der Rest',
    fields: { firstDay: 'Ab', fte: 'VZÄ-Grenze', reportsToId: 'Berichtet an', count: 'Wie viele gleiche' },
    notes: {
      title: 'leer: der der Tätigkeit',
      gradeId: 'leer: die der Tätigkeit',
      hours: 'leer: die der Tätigkeit',
      fte: 'leer: die der Tätigkeit',
      places: 'leer: 1',
      code: 'leer: wird vorgeschlagen',
      count: 'leer: eine',
      locationId: 'leer: der der Einheit',
      reportsToId: 'leer: die Leitung der Einheit',
    },
  },
  title: ({ input, named, words }) => String(input['title'] ?? '') || named('jobId') || words.title,
  lead: ({ named, words }) => words.lead.replace('{{where}}', named('unitId') || '…'),
  rows: ({ about }) => [
    ...(about.kind === 'unit' ? [] : ['unitId']),
    ...(about.kind === 'job' ? [] : ['jobId']),
    'title',
    ['firstDay', 'standing'],
    ['places', 'fte'],
    'count',
  ],
  more: () => [
    ['code', 'handoverDays'],
    ['gradeId', 'step'],
    ['hours', 'averagedOver'],
    ['locationId', 'costCentreId'],
    'reportsToId',
    'legalEntityId',
    ...positionRest,
  ],
  current: (path) => (path === 'standing' ? 'in_force' : undefined),
  alike: ({ about, input: { code: _, ...input } }) => ({ about, input }),
});
