import { limitWords, limitsIn, limitsSaid, positionRest } from '../position-slip';
import { type SlipContext, slip } from '../slip-declared';

/** A position that begins; what is not said comes from its job. */
export const declared = slip('new_position', {
  en: {
    submit: 'Complete new position now',
    title: 'A new position',
    lead: 'in {{where}}',
    more: 'Code, grade, hours, location, reporting line and the rest',
    fields: { firstDay: 'From', fte: 'FTE limit', reportsToId: 'Reports to', count: 'How many alike' },
    options: limitWords.en,
    notes: {
      title: 'left out: that of the job',
      gradeId: 'left out: that of the job',
      hours: 'left out: those of the job',
      places: 'empty: no limit',
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
    options: limitWords.de,
    notes: {
      title: 'leer: der der Tätigkeit',
      gradeId: 'leer: die der Tätigkeit',
      hours: 'leer: die der Tätigkeit',
      places: 'leer: ohne Grenze',
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
  current: (path, context) => {
    if (path === 'standing') return 'in_force';
    const usual = usualLimits(context);
    return path === 'places' || path === 'fte' ? usual?.[path] : undefined;
  },
  note: (path, context) => {
    const limits = path === 'fte' ? limitsIn(context, usualLimits(context)) : undefined;
    return limits && limitsSaid(limits, context);
  },
  alike: ({ about, input: { code: _, ...input } }) => ({ about, input }),
});

// One person, and the FTE that the job says; nothing is known of it before a job is chosen.
const usualLimits = ({ input, showing, day }: SlipContext) => {
  const job = day && showing.register.at('job', Number(input['jobId'] ?? 0), day);
  return { places: 1, fte: job ? (job.fte > 0 ? job.fte : null) : 100 };
};
