import { positionRest } from '../position-slip';
import { slip } from '../slip-declared';

/** Positions like another one; what is not said is as there. */
export const declared = slip('copy_position', {
  en: {
    submit: 'Complete copy now',
    title: 'A copy',
    lead: 'like {{where}}, with its requirements and dotted lines',
    more: 'Code, grade, hours, location, reporting line',
    fields: { firstDay: 'From', count: 'How many alike', fte: 'FTE limit', reportsToId: 'Reports to' },
    notes: {
      title: 'left out: as there',
      unitId: 'left out: the same unit',
      jobId: 'left out: the same job',
      places: 'left out: as there',
      fte: 'left out: as there',
      count: 'left out: one',
      code: 'left out: proposed',
    },
  },
  de: {
    submit: 'Kopie jetzt abschließen',
    title: 'Eine Kopie',
    lead: 'wie {{where}}, mit Anforderungen und fachlichen Linien',
    more: 'Code, Entgeltgruppe, Stunden, Standort, Berichtslinie',
    fields: { firstDay: 'Ab', count: 'Wie viele gleiche', fte: 'VZÄ-Grenze', reportsToId: 'Berichtet an' },
    notes: {
      title: 'leer: wie dort',
      unitId: 'leer: dieselbe Einheit',
      jobId: 'leer: dieselbe Tätigkeit',
      places: 'leer: wie dort',
      fte: 'leer: wie dort',
      count: 'leer: eine',
      code: 'leer: wird vorgeschlagen',
    },
  },
  title: ({ input, words }) => String(input['title'] ?? '') || words.title,
  lead: ({ named, words }) => words.lead.replace('{{where}}', named('likeId') || '…'),
  rows: () => [['firstDay', 'count'], 'title', 'unitId', 'jobId', ['standing', 'places'], 'fte'],
  more: () => [
    ['code', 'gradeId'],
    ['hours', 'locationId'],
    'reportsToId',
    ['costCentreId', 'legalEntityId'],
    ...positionRest,
  ],
  current: (path) => (path === 'standing' ? 'in_force' : undefined),
});
