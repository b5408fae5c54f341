import { slip } from '../slip-declared';

/** Standing, limits, and where a position stands, from a day on. */
export const declared = slip('change_position', {
  en: {
    submit: 'Complete change now',
    title: 'A position',
    lead: 'changes from a day on; what is not touched stays',
    more: 'Title, job, grade, hours, reporting line, cost centre',
    fields: { firstDay: 'From', fte: 'FTE limit', reportsToId: 'Reports to' },
    needs: { change: 'what changes' },
  },
  de: {
    submit: 'Änderung jetzt abschließen',
    title: 'Eine Planstelle',
    lead: 'ändert sich von einem Tag an; was nicht berührt wird, bleibt',
    more: 'Titel, Tätigkeit, Stufe, Stunden, Berichtslinie, Kostenstelle',
    fields: { firstDay: 'Ab', fte: 'VZÄ-Grenze', reportsToId: 'Berichtet an' },
    needs: { change: 'was sich ändert' },
  },
  title: ({ named, words }) => named('positionId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => [['firstDay', 'standing'], ['places', 'fte'], ['handoverDays', 'locationId'], 'unitId'],
  more: () => [
    'title',
    ['code', 'jobId'],
    ['gradeId', 'hours'],
    'reportsToId',
    ['costCentreId', 'legalEntityId'],
  ],
  needs: ({ input, words }) =>
    Object.keys(input).some((name) => !['positionId', 'firstDay'].includes(name))
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
  reads: ({ positionId }) => ({ positions: [positionId] }),
  hasBefore: true,
});
