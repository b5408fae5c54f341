import { isTaking } from '../job-slip';
import { slip } from '../slip-declared';

/** A job from a day on, with the positions that follow it. */
export const declared = slip('change_job', {
  en: {
    submit: 'Complete change now',
    title: 'A job',
    lead: 'changes from a day on; positions whose values come from it follow, those with their own keep it',
    more: 'Family, level, tasks, description and the rest',
    fields: { firstDay: 'From', fte: 'FTE of a position', followers: 'Positions that follow it' },
    notes: { followers: 'each one can be decided otherwise below' },
    options: { follow: 'follow', keep: 'keep what they have' },
    needs: { change: 'what changes', keep: 'keep its own', follow: 'follow the job' },
  },
  de: {
    submit: 'Änderung jetzt abschließen',
    title: 'Eine Tätigkeit',
    lead: 'ändert sich von einem Tag an; Planstellen, deren Werte von ihr stammen, folgen, eigene bleiben',
    more: 'Familie, Ebene, Aufgaben, Beschreibung und der Rest',
    fields: { firstDay: 'Ab', fte: 'VZÄ einer Planstelle', followers: 'Planstellen, die ihr folgen' },
    notes: { followers: 'jede kann unten anders entschieden werden' },
    options: { follow: 'folgen', keep: 'behalten, was sie haben' },
    needs: { change: 'was sich ändert', keep: 'Eigenes behalten', follow: 'der Tätigkeit folgen' },
  },
  title: ({ named, words }) => named('jobId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => ['firstDay', 'name', 'title', ['gradeId', 'hours'], ['fte', 'mostPositions'], 'followers'],
  more: () => [
    ['code', 'active'],
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
  ],
  needs: ({ input, words }) =>
    Object.keys(input).some((name) => !['jobId', 'firstDay', 'followers', 'others'].includes(name))
      ? []
      : [words.needs?.['change'] ?? ''],
  current: (path, { input, showing, day }) => {
    if (path === 'followers') return 'follow';
    const values = day && showing.register.at('job', Number(input['jobId']), day);
    return (values as Record<string, unknown> | undefined)?.[path];
  },
  exceptions: {
    path: 'others',
    word: (_isOther, { words }, line) => words.needs?.[isTaking(line) ? 'keep' : 'follow'] ?? '',
  },
  hasBefore: true,
});
