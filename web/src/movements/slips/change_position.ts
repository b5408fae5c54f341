import { isTaking } from '../job-slip';
import { limitWords, limitsIn, limitsSaid, positionRest } from '../position-slip';
import { slip } from '../slip-declared';

/** Standing, limits, and where a position stands, from a day on. */
export const declared = slip('change_position', {
  en: {
    submit: 'Complete change now',
    title: 'A position',
    lead: 'changes from a day on; what is not touched stays',
    more: 'Title, job, grade, hours, reporting line, cost centre and the rest',
    fields: {
      firstDay: 'From',
      lastDay: 'Until, if not for good',
      fte: 'FTE limit',
      reportsToId: 'Reports to',
      holders: 'Its holders',
    },
    notes: {
      lastDay: 'after it what was there before holds again',
      holders: 'of hours and cost centre; left out: the cost centre carries, hours are kept',
    },
    options: { ...limitWords.en, follow: 'follow', keep: 'keep what they have' },
    needs: { change: 'what changes', keep: 'keep their own', follow: 'follow the position' },
  },
  de: {
    submit: 'Änderung jetzt abschließen',
    title: 'Eine Planstelle',
    lead: 'ändert sich von einem Tag an; was nicht berührt wird, bleibt',
    more: 'Titel, Tätigkeit, Entgeltgruppe, Stunden, Berichtslinie, Kostenstelle und der Rest',
    fields: {
      firstDay: 'Ab',
      lastDay: 'Bis, wenn nicht auf Dauer',
      fte: 'VZÄ-Grenze',
      reportsToId: 'Berichtet an',
      holders: 'Wer sie innehat',
    },
    notes: {
      lastDay: 'danach gilt wieder, was vorher war',
      holders: 'bei Stunden und Kostenstelle; leer: die Kostenstelle gilt mit, Stunden bleiben',
    },
    options: { ...limitWords.de, follow: 'folgt', keep: 'behält, was er hat' },
    needs: { change: 'was sich ändert', keep: 'Eigenes behalten', follow: 'der Planstelle folgen' },
  },
  title: ({ named, words }) => named('positionId') || words.title,
  lead: ({ words }) => words.lead,
  rows: ({ input }) => [
    ['firstDay', 'lastDay'],
    ['standing', 'unitId'],
    ['places', 'fte'],
    ['handoverDays', 'locationId'],
    ...(input['hours'] !== undefined || input['costCentreId'] !== undefined ? ['holders'] : []),
  ],
  more: () => [
    'title',
    ['code', 'jobId'],
    ['gradeId', 'step'],
    ['hours', 'averagedOver'],
    'reportsToId',
    ['costCentreId', 'legalEntityId'],
    ...positionRest,
  ],
  needs: ({ input, words }) =>
    Object.keys(input).some(
      (name) => !['positionId', 'firstDay', 'lastDay', 'holders', 'others'].includes(name),
    )
      ? []
      : [words.needs?.['change'] ?? ''],
  current: (path, { input, showing, day }) => {
    const id = Number(input['positionId']);
    if (!day) return undefined;
    const values = {
      ...showing.register.at('position_limits', id, day),
      ...showing.register.at('position', id, day),
    };
    return (values as Record<string, unknown>)[path];
  },
  note: (path, context) => {
    const { input, showing, day } = context;
    const now = day && showing.register.at('position_limits', Number(input['positionId']), day);
    const limits = path === 'fte' ? limitsIn(context, now) : undefined;
    return limits && limitsSaid(limits, context);
  },
  reads: ({ positionId }) => ({ positions: [positionId] }),
  exceptions: {
    path: 'others',
    word: (_isOther, { words }, line) => words.needs?.[isTaking(line) ? 'keep' : 'follow'] ?? '',
  },
  hasBefore: true,
});
