import { jobParts } from '@gremium/contract';
import type { SlipContext } from '../slip-declared';
import { copyExceptions, partOptions } from '../job-slip';
import { slip } from '../slip-declared';

/** A job that begins, of nothing or of parts of another one. */
export const declared = slip('new_job', {
  en: {
    submit: 'Complete new job now',
    title: 'A new job',
    lead: 'a code, a name and a day are enough; the rest can follow',
    more: 'Everything else that can be said of it',
    fields: {
      firstDay: 'From',
      fromBeginning: 'From the beginning',
      likeId: 'Like',
      parts: 'Parts to copy',
      fte: 'FTE of a position',
      pattern: 'Kept as a pattern only',
    },
    notes: {
      title: 'left out: the name',
      fte: 'left out: 1.0',
      likeId: 'left out: of nothing',
      parts: 'single entries can be left out below',
      mostPositions: 'left out: no limit',
      hours: 'left out: full time',
      pattern: 'no position is of a pattern',
    },
    options: partOptions.en,
    needs: { leave: 'leave out', copy: 'copy it after all' },
  },
  de: {
    submit: 'Neue Tätigkeit jetzt abschließen',
    title: 'Eine neue Tätigkeit',
    lead: 'Code, Name und Tag genügen; der Rest kann folgen',
    more: 'Alles andere, was von ihr zu sagen ist',
    fields: {
      firstDay: 'Ab',
      fromBeginning: 'Von Anfang an',
      likeId: 'Wie',
      parts: 'Zu übernehmende Teile',
      fte: 'VZÄ einer Planstelle',
      pattern: 'Nur als Muster',
    },
    notes: {
      title: 'leer: der Name',
      fte: 'leer: 1,0',
      likeId: 'leer: nach nichts',
      parts: 'einzelne Einträge lassen sich unten auslassen',
      mostPositions: 'leer: ohne Grenze',
      hours: 'leer: Vollzeit',
      pattern: 'Planstellen hat ein Muster keine',
    },
    options: partOptions.de,
    needs: { leave: 'auslassen', copy: 'doch übernehmen' },
  },
  title: ({ input, words }) => String(input['name'] ?? '') || words.title,
  lead: ({ words }) => words.lead,
  rows: ({ input }: SlipContext) => [
    ['name', 'code'],
    ['firstDay', 'fromBeginning'],
    'likeId',
    ...(input['likeId'] ? ['parts'] : []),
    'title',
    ['gradeId', 'hours'],
    ['fte', 'mostPositions'],
  ],
  more: () => [
    ['familyId', 'level'],
    ['functionId', 'typeId'],
    ['workerTypeId', 'averagedOver'],
    'summary',
    'description',
    'taskIds',
    'responsibilityIds',
    'checkIds',
    'branchId',
    ['originId', 'originCode'],
    ['active', 'pattern'],
  ],
  current: (path, { input }) => (path === 'parts' && input['likeId'] ? jobParts : undefined),
  exceptions: copyExceptions,
});
