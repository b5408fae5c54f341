import { slip } from '../slip-declared';

/** A new unit split off another one from a day on. */
export const declared = slip('split_unit', {
  en: {
    submit: 'Complete splitting now',
    title: 'A new unit',
    lead: 'split off {{where}}, beside it, with what goes along',
    fields: { firstDay: 'From', name: 'Name of the new unit' },
    notes: { code: 'left out: proposed', kindId: 'left out: as the unit it comes from' },
    needs: { goes: 'take along', stays: 'goes along: leave it here' },
  },
  de: {
    submit: 'Teilung jetzt abschließen',
    title: 'Eine neue Einheit',
    lead: 'von {{where}} abgespalten, neben ihr, mit dem, was mitgeht',
    fields: { firstDay: 'Ab', name: 'Name der neuen Einheit' },
    notes: { code: 'leer: wird vorgeschlagen', kindId: 'leer: wie die Einheit, von der sie kommt' },
    needs: { goes: 'mitnehmen', stays: 'geht mit: hier lassen' },
  },
  title: ({ input, words }) => String(input['name'] ?? '') || words.title,
  lead: ({ named, words }) => words.lead.replace('{{where}}', named('unitId') || '…'),
  rows: () => ['name', ['firstDay', 'kindId'], 'code'],
  exceptions: {
    path: { position: 'positionIds', unit: 'unitIds' },
    word: (isOther, { words }) => words.needs?.[isOther ? 'stays' : 'goes'] ?? '',
  },
  reads: ({ unitId }) => ({ units: [unitId] }),
});
