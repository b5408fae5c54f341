// Reports that are there at once: plain views, duplicated and shaped like any other.
import type { TotalName, ViewDefinition } from '@gremium/contract';

/** A shipped report: its name in both languages, its folder, and what it shows. */
export type ReadyMade = {
  name: { en: string; de: string };
  folder: { en: string; de: string };
  view: ViewDefinition;
};

const FOLDERS = {
  people: { en: 'People', de: 'Personen' },
  dates: { en: 'Terms and dates', de: 'Fristen und Termine' },
  structure: { en: 'Structure', de: 'Struktur' },
  pay: { en: 'Pay', de: 'Entgelt' },
  changes: { en: 'Changes', de: 'Änderungen' },
};

const YEAR = { from: 'on-365', until: 'on' };
const HERE = 'employment.status in ["at_work", "away"]';

const columns = (...names: string[]): ViewDefinition['columns'] =>
  names.map((name) => {
    const [field = '', total] = name.split('|');
    return total ? { field, total: total as TotalName } : { field };
  });

const view = (
  subject: string,
  shown: ViewDefinition['columns'],
  more: Partial<Pick<ViewDefinition, 'condition' | 'groups' | 'period'>> & { order?: string[] } = {},
): ViewDefinition => ({
  subject: subject as ViewDefinition['subject'],
  columns: shown,
  condition: more.condition ?? '',
  groups: more.groups ?? [],
  ...(more.period ? { period: more.period } : {}),
  order: (more.order ?? []).map((field) => ({ field: field.replace(/^-/, ''), down: field.startsWith('-') })),
});

/** All of them, in the order of the shelf. */
export const readyMade: readonly ReadyMade[] = [
  {
    name: { en: 'Headcount by unit', de: 'Personalbestand nach Einheit' },
    folder: FOLDERS.people,
    view: view(
      'person_name',
      columns('person_name.name', 'position.title', 'employment.begins', 'placement.share|sum'),
      {
        condition: HERE,
        groups: ['unit.name'],
        order: ['person_name.name'],
      },
    ),
  },
  {
    name: { en: 'Joiners of the last twelve months', de: 'Eintritte der letzten zwölf Monate' },
    folder: FOLDERS.people,
    view: view(
      'person_name',
      columns(
        'person_name.name',
        'unit.name',
        'position.title',
        'employment.begins',
        'employment.workerTypeId',
      ),
      {
        condition: 'employment.begins > on - 365 && employment.begins <= on',
        order: ['-employment.begins'],
      },
    ),
  },
  {
    name: { en: 'Leavers of the last twelve months', de: 'Austritte der letzten zwölf Monate' },
    folder: FOLDERS.people,
    view: view(
      'person_name',
      columns('person_name.name', 'unit.name', 'position.title', 'employment.ends', 'employment.endReasonId'),
      {
        condition: 'employment.status == "left" && employment.ends > on - 365',
        order: ['-employment.ends'],
      },
    ),
  },
  {
    name: { en: 'Birthdays ahead', de: 'Kommende Geburtstage' },
    folder: FOLDERS.people,
    view: view('person_name', columns('person_name.name', 'unit.name', 'person.nextBirthday'), {
      condition: `${HERE} && person.nextBirthday < on + 31`,
      order: ['person.nextBirthday'],
    }),
  },
  {
    name: { en: 'Anniversaries of service ahead', de: 'Kommende Dienstjubiläen' },
    folder: FOLDERS.people,
    view: view(
      'person_name',
      columns('person_name.name', 'unit.name', 'employment.nextAnniversary', 'employment.tenure'),
      {
        condition: `${HERE} && employment.nextAnniversary < on + 31`,
        order: ['employment.nextAnniversary'],
      },
    ),
  },
  {
    name: { en: 'Fixed terms ending', de: 'Auslaufende Befristungen' },
    folder: FOLDERS.dates,
    view: view(
      'person_name',
      columns(
        'person_name.name',
        'position.title',
        'contract.fixedUntil',
        'contract.daysLeft',
        'contract.fixedGround',
        'placement.share|sum',
      ),
      {
        condition: `${HERE} && contract.fixedUntil < on + 183`,
        groups: ['unit.name'],
        order: ['contract.fixedUntil'],
      },
    ),
  },
  {
    name: { en: 'Probation ending', de: 'Auslaufende Probezeiten' },
    folder: FOLDERS.dates,
    view: view(
      'person_name',
      columns(
        'person_name.name',
        'unit.name',
        'placement.manager',
        'contract.probationUntil',
        'contract.probation',
      ),
      {
        condition: `${HERE} && contract.probationUntil >= on && contract.probationUntil < on + 92`,
        order: ['contract.probationUntil'],
      },
    ),
  },
  {
    name: { en: 'Vacancies with days vacant', de: 'Unbesetzte Planstellen mit Tagen' },
    folder: FOLDERS.structure,
    view: view(
      'position',
      columns(
        'position.title',
        'position.code',
        'unit.name',
        'position.occupancy',
        'position.freePlaces|sum',
        'position.freeFte|sum',
        'position.hireFte|sum',
        'position.vacantSince',
        'position.daysVacant',
      ),
      { condition: 'position.occupancy in ["vacant", "part_filled"]', order: ['-position.daysVacant'] },
    ),
  },
  {
    name: { en: 'Positions with nobody to report to', de: 'Planstellen ohne jemanden darüber' },
    folder: FOLDERS.structure,
    view: view('position', columns('position.title', 'position.code', 'unit.name', 'position.holders'), {
      condition: 'position.unconfirmedTop == true',
      order: ['position.title'],
    }),
  },
  {
    name: { en: 'Positions over a limit', de: 'Planstellen über einer Grenze' },
    folder: FOLDERS.structure,
    view: view(
      'position',
      columns(
        'position.title',
        'position.code',
        'unit.name',
        'position.held',
        'position_limits.fte',
        'position.holders',
        'position.reviewDue',
      ),
      {
        condition: 'position.occupancy == "over_held"',
        order: ['position.reviewDue'],
      },
    ),
  },
  {
    name: { en: 'Pay changes of the last twelve months', de: 'Entgeltänderungen der letzten zwölf Monate' },
    folder: FOLDERS.pay,
    view: view(
      'pay',
      columns(
        'person_name.name',
        'unit.name',
        'pay.kindId',
        'pay.amount',
        'pay.currency',
        'pay.inEffectFrom',
        'pay.reasonId',
      ),
      {
        period: YEAR,
        order: ['-pay.inEffectFrom', 'person_name.name'],
      },
    ),
  },
  {
    name: { en: 'Pay outside its range', de: 'Entgelt außerhalb der Spanne' },
    folder: FOLDERS.pay,
    view: view(
      'person_name',
      columns(
        'person_name.name',
        'position.title',
        'grade.name',
        'pay.amount',
        'pay.currency',
        'pay.compaRatio',
      ),
      {
        condition: `${HERE} && pay.isOutside == true`,
        groups: ['grade.name'],
        order: ['person_name.name'],
      },
    ),
  },
  {
    name: {
      en: 'Changes of the last thirty days by whom',
      de: 'Änderungen der letzten dreißig Tage nach Konto',
    },
    folder: FOLDERS.changes,
    view: view(
      'entry',
      columns(
        'entry.number',
        'entry.recordedOn',
        'entry.recordedAt',
        'entry.act',
        'entry.personId',
        'entry.people',
        'entry.reason',
        'entry.undone',
      ),
      { period: { from: 'on-30', until: 'on' }, groups: ['entry.account'], order: ['-entry.number'] },
    ),
  },
  {
    name: { en: 'Movements of the last thirty days', de: 'Vorgänge der letzten dreißig Tage' },
    folder: FOLDERS.changes,
    view: view(
      'movement',
      columns(
        'movement.recordedOn',
        'movement.act',
        'movement.personId',
        'unit.name',
        'movement.changedFrom',
        'movement.account',
        'movement.undone',
      ),
      { period: { from: 'on-30', until: 'on' }, order: ['-movement.number'] },
    ),
  },
];
