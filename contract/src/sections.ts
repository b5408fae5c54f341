import type { z } from 'zod';
import { contact, person, personName, personPhoto } from './people/person';
import { contract, employment, pay, placement } from './people/employment';
import { recordSections } from './people/records';
import { job, jobPayBasis, jobRequirement } from './structure/job';
import { listEntry } from './structure/list-entry';
import { exchangeRate, holiday, organisation } from './structure/organisation';
import { roleSection } from './access/role-section';
import { fieldSetting, ownField, ownSection } from './structure/own';
import {
  costCentre,
  leastAge,
  grade,
  gradeRange,
  gradeStep,
  gradeStepPay,
  legalEntity,
  location,
} from './structure/places';
import {
  dottedLine,
  position,
  positionEvaluation,
  positionLimits,
  positionRequirement,
} from './structure/position';
import { unit, unitHiring } from './structure/unit';
import type { Section } from './time/section';

/** The preset parts of the register, in an order in which a register can be written. */
export const sections = {
  organisation,
  own_section: ownSection,
  own_field: ownField,
  field_setting: fieldSetting,
  role: roleSection,
  list_entry: listEntry,
  legal_entity: legalEntity,
  location,
  holiday,
  exchange_rate: exchangeRate,
  cost_centre: costCentre,
  least_age: leastAge,
  grade,
  grade_range: gradeRange,
  grade_step: gradeStep,
  grade_step_pay: gradeStepPay,
  job,
  job_requirement: jobRequirement,
  job_pay_basis: jobPayBasis,
  unit,
  unit_hiring: unitHiring,
  position,
  position_limits: positionLimits,
  position_requirement: positionRequirement,
  dotted_line: dottedLine,
  position_evaluation: positionEvaluation,
  person,
  person_name: personName,
  person_photo: personPhoto,
  contact,
  employment,
  contract,
  placement,
  pay,
  ...recordSections,
} as const;

/** A section that the program brings. */
export type PresetName = keyof typeof sections;
/** A section of the organisation's own, by the id of its definition. */
export type OwnName = `own.${number}`;
/** Any section: a preset one, or one of the organisation’s own. */
export type SectionName = PresetName | OwnName;
export type Values<S extends SectionName = SectionName> = S extends PresetName
  ? z.infer<(typeof sections)[S]['fields']>
  : Record<string, unknown>;

type Empty<V> = { [F in keyof V]: null extends V[F] ? F : never }[keyof V];
/** Values of a new version: what may be empty may be left out. */
export type NewValues<S extends SectionName = SectionName> =
  Values<S> extends infer V ? Omit<V, Empty<V>> & Partial<Pick<V, Empty<V> & keyof V>> : never;

/** Names of the preset sections, in the order in which a register can be written. */
export const presetNames = Object.keys(sections) as PresetName[];

/** The preset sections as they are declared. */
export const presetSections = presetNames.map((name) => sections[name] as unknown as Section);
