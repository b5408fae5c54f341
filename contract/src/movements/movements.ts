// All kinds of movements. Adding one: docs/architecture.md, "To add".
import { z } from 'zod';
import {
  ActingInput,
  ChangeAbsenceInput,
  CoverInput,
  EndStandInInput,
  LongAbsenceInput,
  ReturnInput,
  SecondPlacementInput,
} from './absence';
import { ChangeFullTimeInput } from './full-time';
import { ChangeJobInput, CopyIntoJobInput, NewJobInput } from './job';
import { HireInput, RehireInput, TransferInput } from './hire';
import { ChangeReturnInput, HappenedInput, TransferForATimeInput } from './for-a-time';
import { GiveHonourInput } from './honour';
import { LeaveInput } from './leave';
import { type Movement, movement } from './movement';
import { ApplyStepsInput } from './steps';
import { ChangePayInput, ChangeTermsInput, ExtendInput, PayOnceInput } from './terms';
import {
  ChangePositionInput,
  ChangeUnitInput,
  CloseUnitInput,
  CopyPositionInput,
  LimitsBySeasonInput,
  MergeUnitInput,
  NewPositionInput,
  NewUnitInput,
  SplitUnitInput,
} from './structure';

const firstDay = { field: 'firstDay' };
const started = { what: 'started', field: 'firstDay', after: 0 } as const;
const left = { what: 'left', field: 'firstDay', after: -1 } as const;

/** The kinds, each declared once; the order is the one in which they are offered. */
export const movements = {
  hire: movement({
    name: { en: 'Hire', de: 'Einstellung' },
    input: HireInput,
    right: { act: 'hire' },
    day: firstDay,
    numbers: true,
    act: { en: 'Hire', de: 'Einstellen' },
    key: 'h',
    starts: {
      position: { field: 'positionId', while: ['open'] },
      unit: { field: 'unitId' },
    },
    says: [started],
  }),
  rehire: movement({
    name: { en: 'Rehire', de: 'Wiedereinstellung' },
    input: RehireInput,
    right: { act: 'hire' },
    day: firstDay,
    act: { en: 'Rehire', de: 'Wieder einstellen' },
    starts: { person: { field: 'personId', while: ['left'] } },
    says: [started],
  }),
  transfer: movement({
    name: { en: 'Transfer', de: 'Versetzung' },
    input: TransferInput,
    right: { act: 'transfer' },
    day: firstDay,
    act: { en: 'Transfer', de: 'Versetzen' },
    key: 'm',
    starts: {
      person: { field: 'personId', while: ['at_work', 'away'] },
      position: { field: 'positionId', while: ['open'] },
    },
    says: [left, started],
  }),
  transfer_for_a_time: movement({
    name: { en: 'Transfer for a time', de: 'Abordnung' },
    input: TransferForATimeInput,
    right: { act: 'transfer' },
    day: firstDay,
    act: { en: 'Transfer for a time', de: 'Abordnen' },
    key: 't',
    starts: {
      person: { field: 'personId', while: ['at_work', 'away'] },
      position: { field: 'positionId', while: ['open'] },
    },
    says: [left, started, { what: 'back', field: 'lastDay', after: 1 }],
  }),
  change_return: movement({
    name: { en: 'Change of return', de: 'Änderung der Rückkehr' },
    input: ChangeReturnInput,
    right: { act: 'transfer' },
    day: { field: 'lastDay', isLast: true },
    act: { en: 'Extend or end early', de: 'Verlängern oder vorzeitig beenden' },
    starts: { person: { field: 'placementId', while: ['for_a_time'] } },
    marks: { what: 'back', planned: { after: 1 } },
  }),
  started: movement({
    name: { en: 'Started', de: 'Begonnen' },
    input: HappenedInput,
    right: { act: 'transfer' },
    day: firstDay,
    act: { en: 'Started on another day', de: 'An einem anderen Tag begonnen' },
    starts: {},
    isFact: true,
    marks: { what: 'started' },
  }),
  back: movement({
    name: { en: 'Back', de: 'Zurück' },
    input: HappenedInput,
    right: { act: 'transfer' },
    day: firstDay,
    act: { en: 'Is back', de: 'Ist zurück' },
    starts: { person: { field: 'placementId', while: ['for_a_time'] } },
    isFact: true,
    marks: { what: 'back' },
  }),
  change_terms: movement({
    name: { en: 'Change of terms', de: 'Änderung der Bedingungen' },
    aside: true,
    input: ChangeTermsInput,
    right: { section: 'contract', level: 'edit' },
    day: firstDay,
    act: { en: 'Change terms', de: 'Bedingungen ändern' },
    starts: { person: { field: 'employmentId', while: ['at_work', 'away', 'coming'] } },
  }),
  change_pay: movement({
    name: { en: 'Change of pay', de: 'Entgeltänderung' },
    input: ChangePayInput,
    right: { section: 'pay', level: 'edit' },
    day: firstDay,
    act: { en: 'Set new pay', de: 'Neues Entgelt festlegen' },
    key: 'p',
    starts: { person: { field: 'employmentId', while: ['at_work', 'away', 'coming'] } },
  }),
  pay_once: movement({
    name: { en: 'One-off payment', de: 'Einmalzahlung' },
    aside: true,
    input: PayOnceInput,
    right: { section: 'one_off_payment', level: 'edit' },
    day: { field: 'paidOn' },
    act: { en: 'Pay once', de: 'Einmalig zahlen' },
    starts: { person: { field: 'employmentId', while: ['at_work', 'away', 'coming'] } },
  }),
  extend: movement({
    name: { en: 'Extension', de: 'Verlängerung' },
    input: ExtendInput,
    right: { section: 'contract', level: 'edit' },
    day: { field: 'lastDay', isLast: true, isOpen: true },
    act: { en: 'Extend employment', de: 'Beschäftigung verlängern' },
    starts: { person: { field: 'employmentId', while: ['ending'] } },
  }),
  long_absence: movement({
    name: { en: 'Long absence', de: 'Lange Abwesenheit' },
    input: LongAbsenceInput,
    right: { section: 'absence', level: 'edit' },
    day: firstDay,
    act: { en: 'Record absence', de: 'Abwesenheit erfassen' },
    key: 'a',
    starts: { person: { field: 'employmentId', while: ['at_work', 'coming'] } },
  }),
  return_from_absence: movement({
    name: { en: 'Return', de: 'Rückkehr' },
    input: ReturnInput,
    right: { section: 'absence', level: 'edit' },
    day: firstDay,
    act: { en: 'Record return', de: 'Rückkehr erfassen' },
    starts: { person: { field: 'employmentId', while: ['absent'] } },
    isFact: true,
  }),
  change_absence: movement({
    name: { en: 'Change of absence', de: 'Änderung der Abwesenheit' },
    input: ChangeAbsenceInput,
    right: { section: 'absence', level: 'edit' },
    day: { ...firstDay, isOpen: true },
    aside: true,
    act: { en: 'Move absence', de: 'Abwesenheit verschieben' },
    starts: { person: { field: 'absenceId', while: ['absent'] } },
  }),
  cover: movement({
    name: { en: 'Cover', de: 'Vertretung' },
    input: CoverInput,
    right: { act: 'transfer' },
    day: firstDay,
    act: { en: 'Arrange cover', de: 'Vertretung regeln' },
    starts: { person: { field: 'awayEmploymentId', while: ['absent'] } },
  }),
  second_placement: movement({
    name: { en: 'Second placement', de: 'Zweiter Platz' },
    input: SecondPlacementInput,
    right: { act: 'transfer' },
    day: firstDay,
    aside: true,
    act: { en: 'Give a second place', de: 'Zweiten Platz geben' },
    starts: { person: { field: 'personId', while: ['at_work', 'coming'] } },
  }),
  end_stand_in: movement({
    name: { en: 'End of cover, acting or second place', de: 'Ende von Vertretung oder zweitem Platz' },
    input: EndStandInInput,
    right: { act: 'transfer' },
    day: { field: 'lastDay', isLast: true },
    act: { en: 'End cover, acting or second place', de: 'Vertretung oder zweiten Platz beenden' },
    aside: true,
    starts: { person: { field: 'standInId', while: ['stands_in'] } },
  }),
  leave: movement({
    name: { en: 'Leaving', de: 'Austritt' },
    input: LeaveInput,
    right: { act: 'leave' },
    day: { field: 'lastDay', isLast: true },
    act: { en: 'Record leaving', de: 'Austritt erfassen' },
    key: 'l',
    starts: { person: { field: 'employmentId', while: ['at_work', 'away', 'coming'] } },
    says: [{ what: 'left', field: 'lastDay', after: 0 }],
  }),
  give_honour: movement({
    name: { en: 'Honour', de: 'Ehrung' },
    aside: true,
    input: GiveHonourInput,
    right: { section: 'award', level: 'edit' },
    day: { field: 'awardedOn' },
    act: { en: 'Record honour', de: 'Ehrung erfassen' },
    starts: { person: { field: 'personIds', several: true } },
  }),
  new_position: movement({
    name: { en: 'New position', de: 'Neue Planstelle' },
    input: NewPositionInput,
    right: { section: 'position', level: 'edit' },
    day: firstDay,
    act: { en: 'New position', de: 'Neue Planstelle' },
    starts: { unit: { field: 'unitId' }, job: { field: 'jobId', while: ['active', 'retired'] } },
  }),
  change_position: movement({
    name: { en: 'Change of position', de: 'Änderung der Planstelle' },
    input: ChangePositionInput,
    right: { section: 'position', level: 'edit' },
    day: firstDay,
    act: { en: 'Change', de: 'Ändern' },
    key: 'e',
    starts: { position: { field: 'positionId' } },
    doorTo: ['position', 'position_limits'],
  }),
  copy_position: movement({
    name: { en: 'Copy of position', de: 'Kopie der Planstelle' },
    input: CopyPositionInput,
    right: { section: 'position', level: 'edit' },
    day: firstDay,
    act: { en: 'Copy', de: 'Kopieren' },
    starts: { position: { field: 'likeId' } },
  }),
  limits_by_season: movement({
    name: { en: 'Limits by season', de: 'Grenzen nach Saison' },
    input: LimitsBySeasonInput,
    right: { section: 'position_limits', level: 'edit' },
    day: firstDay,
    act: { en: 'Limits by season', de: 'Grenzen nach Saison' },
    starts: { position: { field: 'positionId' } },
  }),
  acting: movement({
    name: { en: 'Acting', de: 'Kommissarische Leitung' },
    input: ActingInput,
    right: { act: 'transfer' },
    day: firstDay,
    aside: true,
    act: { en: 'Let somebody act', de: 'Kommissarisch besetzen' },
    starts: { position: { field: 'positionId' } },
  }),
  new_job: movement({
    name: { en: 'New job', de: 'Neue Tätigkeit' },
    input: NewJobInput,
    right: { section: 'job', level: 'edit' },
    day: firstDay,
    act: { en: 'New job like it', de: 'Neue Tätigkeit danach' },
    starts: { job: { field: 'likeId' } },
  }),
  change_job: movement({
    name: { en: 'Change of job', de: 'Änderung der Tätigkeit' },
    input: ChangeJobInput,
    right: { section: 'job', level: 'edit' },
    day: firstDay,
    act: { en: 'Change', de: 'Ändern' },
    key: 'e',
    starts: { job: { field: 'jobId' } },
    doorTo: ['job'],
  }),
  copy_into_job: movement({
    name: { en: 'Parts copied into job', de: 'Teile in Tätigkeit übernommen' },
    input: CopyIntoJobInput,
    right: { section: 'job', level: 'edit' },
    day: firstDay,
    act: { en: 'Copy parts into it', de: 'Teile übernehmen' },
    starts: { job: { field: 'jobId' } },
  }),
  apply_steps: movement({
    name: { en: 'Next steps', de: 'Stufenaufstiege' },
    input: ApplyStepsInput,
    right: { section: 'pay', level: 'edit' },
    day: firstDay,
    act: { en: 'Apply next steps', de: 'Stufenaufstiege anwenden' },
    starts: {},
  }),
  new_unit: movement({
    name: { en: 'New unit', de: 'Neue Einheit' },
    input: NewUnitInput,
    right: { section: 'unit', level: 'edit' },
    day: firstDay,
    act: { en: 'New unit below', de: 'Neue Einheit darunter' },
    starts: { unit: { field: 'parentId' } },
  }),
  change_unit: movement({
    name: { en: 'Change of unit', de: 'Änderung der Einheit' },
    input: ChangeUnitInput,
    right: { section: 'unit', level: 'edit' },
    day: firstDay,
    act: { en: 'Change', de: 'Ändern' },
    key: 'e',
    starts: { unit: { field: 'unitId' } },
    doorTo: ['unit'],
  }),
  close_unit: movement({
    name: { en: 'Closing of unit', de: 'Schließung der Einheit' },
    input: CloseUnitInput,
    right: { section: 'unit', level: 'edit' },
    day: { field: 'lastDay', isLast: true },
    act: { en: 'Close', de: 'Schließen' },
    starts: { unit: { field: 'unitId' } },
  }),
  merge_unit: movement({
    name: { en: 'Merging of unit', de: 'Zusammenlegung der Einheit' },
    input: MergeUnitInput,
    right: { section: 'unit', level: 'edit' },
    day: firstDay,
    act: { en: 'Merge', de: 'Zusammenlegen' },
    starts: { unit: { field: 'unitId' } },
  }),
  split_unit: movement({
    name: { en: 'Splitting of unit', de: 'Teilung der Einheit' },
    input: SplitUnitInput,
    right: { section: 'unit', level: 'edit' },
    day: firstDay,
    act: { en: 'Split', de: 'Teilen' },
    starts: { unit: { field: 'unitId' } },
  }),
  change_full_time: movement({
    name: { en: 'Change of full-time hours', de: 'Änderung der Vollzeitstunden' },
    input: ChangeFullTimeInput,
    right: { section: 'organisation', level: 'edit' },
    day: firstDay,
    act: { en: 'Change full-time hours', de: 'Vollzeitstunden ändern' },
    starts: { organisation: { field: 'organisationId' } },
    whole: [
      'organisation',
      'location',
      'unit',
      'position',
      'position_limits',
      'employment',
      'placement',
      'absence',
    ],
  }),
} as const;

/** A kind of movement. */
export type MovementKind = keyof typeof movements;
/** Names of the kinds. */
export const movementKinds = Object.keys(movements) as [MovementKind, ...MovementKind[]];
/** A kind of movement, checked. */
export const MovementKindSchema = z.enum(movementKinds);

/** What a kind of movement asks, checked. */
export type MovementInput<K extends MovementKind = MovementKind> = z.output<(typeof movements)[K]['input']>;

/** A kind by its name, with its exact type left out: for what is done with every kind alike. */
export const movementOf = (kind: MovementKind): Movement => movements[kind] as unknown as Movement;

/** The kind of movement through which a section changes, where there is one. */
export const doorOf = (section: string): MovementKind | undefined =>
  movementKinds.find((kind) => (movementOf(kind).doorTo as readonly string[] | undefined)?.includes(section));
