import { limitWords, limitsIn, limitsSaid, positionRest } from '../position-slip';
import { type SlipContext, slip } from '../slip-declared';

/** Positions like another one; what is not said is as there. */
export const declared = slip('copy_position', {
  en: {
    submit: 'Complete copy now',
    title: 'A copy',
    lead: 'like {{where}}, with its requirements and dotted lines',
    more: 'Code, grade, hours, location, reporting line',
    fields: { firstDay: 'From', count: 'How many alike', fte: 'FTE limit', reportsToId: 'Reports to' },
    options: limitWords.en,
    notes: {
      title: 'left out: as there',
      unitId: 'left out: the same unit',
      jobId: 'left out: the same job',
      places: 'empty: no limit',
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
    options: limitWords.de,
    notes: {
      title: 'leer: wie dort',
      unitId: 'leer: dieselbe Einheit',
      jobId: 'leer: dieselbe Tätigkeit',
      places: 'leer: ohne Grenze',
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
  current: (path, context) => {
    if (path === 'standing') return 'in_force';
    return path === 'places' || path === 'fte' ? limitsThere(context)?.[path] : undefined;
  },
  note: (path, context) => {
    const limits = path === 'fte' ? limitsIn(context, limitsThere(context)) : undefined;
    return limits && limitsSaid(limits, context);
  },
  reads: ({ likeId }) => ({ positions: [likeId] }),
});

const limitsThere = ({ input, showing, day }: SlipContext) =>
  day && showing.register.at('position_limits', Number(input['likeId'] ?? 0), day);
