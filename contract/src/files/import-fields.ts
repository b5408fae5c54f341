// The columns that a file of people may have. One list: reading, templates, the page and the docs are made from it.
import { z } from 'zod';
import { type Grant, hiddenFields } from '../access/viewer';

/** What a column of a file of people can be taken for. */
export const ImportField = z.enum([
  'number',
  'name',
  'wholeName',
  'given',
  'middle',
  'family',
  'preferred',
  'birthDate',
  'gender',
  'nationality',
  'language',
  'email',
  'phone',
  'from',
  'firstDay',
  'lastDay',
  'seniorityDate',
  'workerType',
  'legalEntity',
  'position',
  'unit',
  'job',
  'location',
  'hours',
  'fte',
  'reason',
  'manager',
  'contract',
  'fixedUntil',
  'probationUntil',
  'payKind',
  'pay',
  'currency',
  'basis',
]);
export type ImportField = z.infer<typeof ImportField>;

/** How a cell is read. `choice` is one of a list or of a kind of things, `word` one of a closed set. */
export type Reading = 'text' | 'day' | 'decimal' | 'choice' | 'word';

type Described = {
  reading: Reading;
  /** Needed of somebody new. */
  required?: 'always' | 'or';
  /** Is split into other columns when it is taken in; no template has it. */
  splits?: true;
  /** The field that keeps it, where that may be hidden from somebody. */
  keeps?: string;
  /** May be emptied by `(clear)`. */
  clears?: true;
  label: { en: string; de: string };
  /** What else such a column is called, in any language, folded. */
  also: string;
};

/** Each field with its labels and other names of such columns (separated by commas). */
export const importFields: Record<ImportField, Described> = {
  number: {
    reading: 'text',
    label: { en: 'Person number', de: 'Personalnummer' },
    also: 'number,no,nr,id,pers no,pers nr,person no,employee number,employee no,employee id,staff number,personnel number,nummer',
  },
  name: {
    reading: 'text',
    label: { en: 'Name, to compare only', de: 'Name, nur zum Vergleich' },
    also: 'name,full name,namn,navn,nimi,vollständiger name',
  },
  wholeName: {
    reading: 'text',
    splits: true,
    label: { en: 'Whole name, to be split', de: 'Ganzer Name, wird geteilt' },
    also: '',
  },
  given: {
    reading: 'text',
    required: 'or',
    label: { en: 'Given name', de: 'Vorname' },
    also: 'given,first name,firstname,forename,fornamn,fornavn,etunimi,eesnimi',
  },
  middle: {
    reading: 'text',
    keeps: 'person_name.middle',
    clears: true,
    label: { en: 'Middle name', de: 'Zweiter Vorname' },
    also: 'middle,middle names',
  },
  family: {
    reading: 'text',
    required: 'or',
    label: { en: 'Family name', de: 'Familienname' },
    also: 'family,last name,lastname,surname,nachname,efternamn,etternavn,efternavn,sukunimi,perekonnanimi',
  },
  preferred: {
    reading: 'text',
    keeps: 'person_name.preferred',
    clears: true,
    label: { en: 'Preferred name', de: 'Rufname' },
    also: 'preferred,known as,called',
  },
  birthDate: {
    reading: 'day',
    keeps: 'person.birthDate',
    clears: true,
    label: { en: 'Birth date', de: 'Geburtsdatum' },
    also: 'date of birth,born,born on,geboren,geboren am,birthday,födelsedatum,fødselsdato',
  },
  gender: {
    reading: 'word',
    keeps: 'person.gender',
    clears: true,
    label: { en: 'Gender', de: 'Geschlecht' },
    also: 'sex,kön,køn,kjønn',
  },
  nationality: {
    reading: 'word',
    keeps: 'person.nationality',
    clears: true,
    label: { en: 'Nationality', de: 'Staatsangehörigkeit' },
    also: 'citizenship,nationalität,citizen of',
  },
  language: {
    reading: 'word',
    keeps: 'person.language',
    clears: true,
    label: { en: 'Language', de: 'Sprache' },
    also: 'preferred language,språk,sprog',
  },
  email: {
    reading: 'text',
    required: 'or',
    clears: true,
    label: { en: 'Email', de: 'E-Mail' },
    also: 'e mail,mail,email address,e mail address,work email,mail address,e mail adresse,e post',
  },
  phone: {
    reading: 'text',
    required: 'or',
    clears: true,
    label: { en: 'Phone', de: 'Telefon' },
    also: 'telephone,phone number,mobile,mobil,telefonnummer,tel',
  },
  from: {
    reading: 'day',
    label: { en: 'In effect from', de: 'Gültig ab' },
    also: 'from,effective from,effective date,valid from,gilt ab,ab,wirksam ab',
  },
  firstDay: {
    reading: 'day',
    required: 'always',
    label: { en: 'First day', de: 'Erster Tag' },
    also: 'start date,start,hire date,hired,hired on,joined,entry date,eintritt,eintrittsdatum,eintritt am,beginn,anställd från,första dag',
  },
  lastDay: {
    reading: 'day',
    label: { en: 'Last day', de: 'Letzter Tag' },
    also: 'end date,end,until,exit date,austritt,austrittsdatum,bis,ende,till,sista dag',
  },
  seniorityDate: {
    reading: 'day',
    keeps: 'employment.seniorityDate',
    clears: true,
    label: { en: 'Seniority date', de: 'Betriebszugehörigkeit ab' },
    also: 'seniority,service date,dienstalter,dienstaltersdatum,anrechnungsdatum',
  },
  workerType: {
    reading: 'choice',
    label: { en: 'Worker type', de: 'Beschäftigungsart' },
    also: 'type,kind of worker,art,beschäftigtenart',
  },
  legalEntity: {
    reading: 'choice',
    label: { en: 'Legal entity', de: 'Gesellschaft' },
    also: 'entity,company,employer,firma,arbeitgeber,rechtseinheit',
  },
  position: {
    reading: 'choice',
    required: 'or',
    label: { en: 'Position', de: 'Planstelle' },
    also: 'position code,position number,stellennummer,stelle,stellencode',
  },
  unit: {
    reading: 'choice',
    required: 'or',
    label: { en: 'Unit', de: 'Einheit' },
    also: 'unit code,unit name,department,team,organisational unit,abteilung,avdelning,avdeling,afdeling,organisationseinheit,vessel',
  },
  job: {
    reading: 'choice',
    required: 'or',
    label: { en: 'Job', de: 'Tätigkeit' },
    also: 'job code,job title,title,occupation,beruf,stellentitel,funktion,befattning,stilling',
  },
  location: {
    reading: 'choice',
    label: { en: 'Location', de: 'Standort' },
    also: 'place of work,site,arbeitsort,ort,harbour,plats',
  },
  hours: {
    reading: 'decimal',
    label: { en: 'Hours a week', de: 'Wochenstunden' },
    also: 'hours,weekly hours,stunden,stunden pro woche,arbeitszeit,timmar',
  },
  fte: {
    reading: 'decimal',
    label: { en: 'FTE', de: 'VZÄ' },
    also: 'share,full time equivalent,anteil,vollzeitäquivalent,employment share,beschäftigungsgrad',
  },
  reason: {
    reading: 'choice',
    label: { en: 'Reason', de: 'Grund' },
    also: 'reason code,grund,orsak,årsak,why',
  },
  manager: {
    reading: 'choice',
    clears: true,
    label: { en: 'Manager', de: 'Führungskraft' },
    also: 'manager number,manager email,reports to,supervisor,leader,chef,berichtet an,vorgesetzte,vorgesetzter,leder',
  },
  contract: {
    reading: 'choice',
    label: { en: 'Contract', de: 'Vertragsart' },
    also: 'contract kind,contract type,kind of contract,vertrag',
  },
  fixedUntil: {
    reading: 'day',
    keeps: 'contract.fixedUntil',
    clears: true,
    label: { en: 'Fixed until', de: 'Befristet bis' },
    also: 'fixed term until,contract end,vertragsende,befristung',
  },
  probationUntil: {
    reading: 'day',
    keeps: 'contract.probationUntil',
    clears: true,
    label: { en: 'Probation until', de: 'Probezeit bis' },
    also: 'probation,end of probation,probezeit,probezeitende',
  },
  payKind: {
    reading: 'choice',
    label: { en: 'Pay component', de: 'Entgeltbestandteil' },
    also: 'pay kind,component,lohnart,entgeltart',
  },
  pay: {
    reading: 'decimal',
    label: { en: 'Pay', de: 'Entgelt' },
    also: 'amount,salary,base pay,wage,gehalt,lohn,betrag,lön',
  },
  currency: { reading: 'word', label: { en: 'Currency', de: 'Währung' }, also: 'valuta' },
  basis: {
    reading: 'word',
    label: { en: 'Pay is for', de: 'Entgelt gilt für' },
    also: 'per,pay basis,basis,bezug,zeitraum',
  },
};

/** What empties a field instead of leaving it as it is. */
export const CLEAR = '(clear)';

/** What columns of a file of people a viewer may fill. */
export const importFieldsOf = (grants: readonly Grant[]): ImportField[] => {
  const hidden = hiddenFields(grants);
  return ImportField.options.filter((field) => !hidden.has(importFields[field].keeps ?? ''));
};
