import { slip } from '../slip-declared';

/** A unit that begins below another one. */
export const declared = slip('new_unit', {
  en: {
    submit: 'Complete new unit now',
    title: 'A new unit',
    lead: 'below {{where}}',
    needs: { first: 'the first of all; every other stands below it' },
    more: 'Code, head, location, legal entity, cost centre',
    fields: { firstDay: 'From', parentId: 'Below', hiresNeedPosition: 'Hires need a position' },
    notes: {
      code: 'left out: proposed',
      hiresNeedPosition: 'left out: as the unit above',
      locationId: 'left out: as the unit above',
    },
  },
  de: {
    submit: 'Neue Einheit jetzt abschließen',
    title: 'Eine neue Einheit',
    lead: 'unter {{where}}',
    needs: { first: 'die erste von allen; jede andere steht unter ihr' },
    more: 'Code, Leitung, Standort, Gesellschaft, Kostenstelle',
    fields: {
      firstDay: 'Ab',
      parentId: 'Unter',
      hiresNeedPosition: 'Einstellungen brauchen eine Planstelle',
    },
    notes: {
      code: 'leer: wird vorgeschlagen',
      hiresNeedPosition: 'leer: wie die Einheit darüber',
      locationId: 'leer: wie die Einheit darüber',
    },
  },
  title: ({ input, words }) => String(input['name'] ?? '') || words.title,
  lead: ({ about, named, words }) =>
    about.kind === 'organisation'
      ? (words.needs?.['first'] ?? '')
      : words.lead.replace('{{where}}', named('parentId') || '…'),
  rows: ({ about }) => [
    'name',
    ['kindId', 'firstDay'],
    ...(about.kind === 'unit' || about.kind === 'organisation' ? [] : ['parentId']),
    'hiresNeedPosition',
  ],
  more: () => [['code', 'locationId'], 'headPositionId', ['legalEntityId', 'costCentreId']],
});
