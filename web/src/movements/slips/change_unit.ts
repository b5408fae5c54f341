import { slip } from '../slip-declared';

/** A unit renamed, moved with its branch, given another head, from a day on. */
export const declared = slip('change_unit', {
  en: {
    submit: 'Complete change now',
    title: 'A unit',
    lead: 'changes from a day on; its branch moves along',
    more: 'Code, kind, location, legal entity, cost centre',
    fields: { firstDay: 'From', parentId: 'Below', hiresNeedPosition: 'Hires need a position' },
    notes: { parentId: 'everything below it moves along', hiresNeedPosition: 'empty: as the unit above' },
    needs: { change: 'what changes' },
  },
  de: {
    submit: 'Änderung jetzt abschließen',
    title: 'Eine Einheit',
    lead: 'ändert sich von einem Tag an; ihr Zweig wandert mit',
    more: 'Code, Art, Standort, Gesellschaft, Kostenstelle',
    fields: {
      firstDay: 'Ab',
      parentId: 'Unter',
      hiresNeedPosition: 'Einstellungen brauchen eine Planstelle',
    },
    notes: { parentId: 'alles darunter wandert mit', hiresNeedPosition: 'leer: wie die Einheit darüber' },
    needs: { change: 'was sich ändert' },
  },
  title: ({ named, words }) => named('unitId') || words.title,
  lead: ({ words }) => words.lead,
  rows: () => ['firstDay', 'name', 'parentId', 'headPositionId', 'hiresNeedPosition'],
  more: () => [['code', 'kindId'], ['locationId', 'legalEntityId'], 'costCentreId'],
  needs: ({ input, words }) =>
    Object.keys(input).some((name) => !['unitId', 'firstDay'].includes(name))
      ? []
      : [words.needs?.['change'] ?? ''],
  current: (path, { input, showing, day }) =>
    day
      ? (showing.register.at('unit', Number(input['unitId']), day) as Record<string, unknown> | undefined)?.[
          path
        ]
      : undefined,
  reads: ({ unitId }) => ({ units: [unitId] }),
  hasBefore: true,
});
