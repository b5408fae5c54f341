// What every organisation needs in its lists: written as the first entry of a new register, each of it to be changed or retired.
import type { Flags, ListName } from '@gremium/contract';

/** An entry of a list as it is shipped. */
export type Shipped = { list: ListName; code: string; label: { en: string; de: string }; flags: Flags };

type Line = readonly [code: string, en: string, de: string, flags?: Flags];

const WORK: Partial<Record<ListName, readonly Line[]>> = {
  worker_type: [
    ['EMPLOYEE', 'Employee', 'Beschäftigte', { paid: true, counted: true }],
    ['APPRENTICE', 'Apprentice', 'Auszubildende', { paid: true, counted: true }],
    ['AGENCY', 'Agency worker', 'Leiharbeitskraft', { supplied: true }],
    ['CONTRACTOR', 'Contractor', 'Auftragnehmer', { supplied: true }],
    ['VOLUNTEER', 'Volunteer', 'Ehrenamtliche', {}],
    ['BOARD', 'Board member', 'Organmitglied', { unplaced: true }],
  ],
  contract_kind: [
    ['PERMANENT', 'Permanent', 'Unbefristet'],
    ['FIXED', 'Fixed-term', 'Befristet'],
    ['APPRENTICESHIP', 'Apprenticeship', 'Ausbildung'],
    ['MARGINAL', 'Minor employment', 'Geringfügig'],
  ],
  pay_kind: [
    ['BASE', 'Base pay', 'Grundentgelt', { base: true }],
    ['ALLOWANCE', 'Allowance', 'Zulage'],
    ['BONUS', 'Bonus', 'Prämie'],
  ],
  unit_kind: [
    ['COMPANY', 'Company', 'Unternehmen'],
    ['DIVISION', 'Division', 'Bereich', { division: true }],
    ['DEPARTMENT', 'Department', 'Abteilung'],
    ['TEAM', 'Team', 'Team'],
    ['SITE', 'Site', 'Betriebsstätte'],
  ],
};

const REASONS: readonly Line[] = [
  ['VACANCY', 'Filling a vacancy', 'Besetzung einer freien Planstelle', { acts: ['hire', 'transfer'] }],
  ['NEWPOST', 'New position', 'Neue Planstelle', { acts: ['hire', 'transfer'] }],
  ['REPLACE', 'Replacing somebody for a time', 'Vertretung', { acts: ['hire'] }],
  ['PROMOTED', 'Promotion', 'Beförderung', { acts: ['transfer'] }],
  ['OWNWISH', 'Own wish', 'Auf eigenen Wunsch', { acts: ['transfer'] }],
  ['REORG', 'Reorganisation', 'Umorganisation', { acts: ['transfer'], administrative: true }],
  ['RESIGNED', 'Resigned', 'Eigene Kündigung', { acts: ['leave'], class: 'by_employee' }],
  ['DISMISSED', 'Dismissed', 'Kündigung durch uns', { acts: ['leave'], class: 'by_employer' }],
  ['MUTUAL', 'By mutual agreement', 'Aufhebungsvertrag', { acts: ['leave'], class: 'by_employer' }],
  ['TERM', 'End of fixed term', 'Befristungsende', { acts: ['leave'], class: 'end_of_term' }],
  ['RETIRED', 'Retired', 'Ruhestand', { acts: ['leave'], class: 'retirement' }],
  ['DIED', 'Died', 'Verstorben', { acts: ['leave'], class: 'death' }],
  ['ROUND', 'Yearly pay round', 'Jährliche Entgeltrunde', { acts: ['change'] }],
  ['RAISE', 'Individual raise', 'Einzelne Erhöhung', { acts: ['change'] }],
];

const RECORD: Partial<Record<ListName, readonly Line[]>> = {
  education: [
    ['SCHOOL', 'School leaving certificate', 'Schulabschluss'],
    ['VOCATIONAL', 'Vocational training', 'Berufsausbildung'],
    ['BACHELOR', 'Bachelor', 'Bachelor'],
    ['MASTER', 'Master', 'Master'],
    ['DOCTORATE', 'Doctorate', 'Promotion'],
  ],
  document_kind: [
    ['CONTRACT', 'Contract of employment', 'Arbeitsvertrag'],
    ['CERTIFICATE', 'Certificate', 'Nachweis'],
    ['REFERENCE', 'Reference', 'Zeugnis'],
    ['IDENTITY', 'Proof of identity', 'Identitätsnachweis'],
    ['OTHER', 'Other', 'Sonstiges'],
  ],
  absence_kind: [
    ['TIMEOFF', 'Time off', 'Urlaub'],
    ['SICK', 'Sickness', 'Krankheit'],
    ['PARENTAL', 'Parental absence', 'Elternzeit'],
    ['TRAINING', 'Training', 'Fortbildung'],
    ['UNPAID', 'Unpaid absence', 'Unbezahlte Freistellung'],
  ],
  relation: [
    ['PARTNER', 'Partner', 'Partnerin oder Partner'],
    ['CHILD', 'Child', 'Kind'],
    ['PARENT', 'Parent', 'Elternteil'],
    ['SIBLING', 'Brother or sister', 'Geschwister'],
    ['FRIEND', 'Friend', 'Bekannte'],
  ],
  identifier_kind: [
    ['PASSPORT', 'Passport', 'Reisepass'],
    ['IDCARD', 'Identity card', 'Personalausweis'],
    ['SOCIAL', 'Social insurance number', 'Sozialversicherungsnummer'],
    ['TAX', 'Tax number', 'Steuernummer'],
    ['WORKPERMIT', 'Work permit', 'Arbeitserlaubnis'],
    ['RESIDENCE', 'Residence permit', 'Aufenthaltserlaubnis'],
  ],
  protected_status: [
    ['DISABILITY', 'Severe disability', 'Schwerbehinderung'],
    ['PREGNANCY', 'Pregnancy', 'Schwangerschaft'],
    ['ELECTED', 'Elected representative', 'Gewählte Vertretung'],
  ],
  training: [
    ['SAFETY', 'Safety at work', 'Arbeitssicherheit'],
    ['FIRSTAID', 'First aid', 'Erste Hilfe'],
    ['DATA', 'Data protection', 'Datenschutz'],
  ],
  medical: [
    ['FIRST', 'First examination', 'Erstuntersuchung'],
    ['REPEAT', 'Follow-up examination', 'Nachuntersuchung'],
  ],
  measure: [
    ['REPRIMAND', 'Reprimand', 'Verweis'],
    ['WARNING', 'Written warning', 'Abmahnung'],
  ],
  benefit: [
    ['PENSION', 'Company pension', 'Betriebliche Altersversorgung'],
    ['TRANSPORT', 'Travel allowance', 'Fahrtkostenzuschuss'],
    ['MEALS', 'Meals', 'Essenszuschuss'],
  ],
  asset_kind: [
    ['KEY', 'Key', 'Schlüssel'],
    ['COMPUTER', 'Computer', 'Rechner'],
    ['PHONE', 'Phone', 'Telefon'],
  ],
  check: [
    ['IDENTITY', 'Identity checked', 'Identität geprüft'],
    ['PERMIT', 'Right to work checked', 'Arbeitserlaubnis geprüft'],
    ['MEDICAL', 'Medical examination', 'Betriebsärztliche Untersuchung'],
  ],
};

const linesOf = (lists: Partial<Record<ListName, readonly Line[]>>): Shipped[] =>
  Object.entries(lists).flatMap(([list, lines]) =>
    lines.map(([code, en, de, flags = {}]) => ({ list: list as ListName, code, label: { en, de }, flags })),
  );

/** All entries that are shipped, in the order of their lists. */
export const shippedEntries: readonly Shipped[] = [
  ...linesOf(WORK),
  ...linesOf({ reason: REASONS }),
  ...linesOf(RECORD),
];

/**
 * Least ages as they are shipped; those of other countries are set by the organisation. Germany: 15 (JArbSchG §§ 2, 5, 7); Finland: 15
 * (998/1993 § 2). At sea 16 (Maritime Labour Convention, regulation 1.1).
 */
export const shippedLeastAges = [
  { code: 'AGE-DE', name: 'Deutschland', country: 'DE', workerTypeId: null, atSea: false, age: 15 },
  { code: 'AGE-FI', name: 'Suomi', country: 'FI', workerTypeId: null, atSea: false, age: 15 },
  { code: 'AGE-SEA', name: 'At sea', country: null, workerTypeId: null, atSea: true, age: 16 },
] as const;
