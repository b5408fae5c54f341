import type { z } from 'zod';
import { contact, person, personName } from './people/person';
import { contract, employment, pay, placement } from './people/employment';
import { job } from './structure/job';
import { listEntry } from './structure/list-entry';
import { organisation } from './structure/organisation';
import { costCentre, grade, gradeRange, legalEntity, location } from './structure/places';
import { position, positionLimits } from './structure/position';
import { unit, unitHiring } from './structure/unit';
import { type Kind, type Section, refsOf } from './time/section';

/** Every versioned part of the register, in an order in which a register can be written. */
export const sections = {
  organisation,
  list_entry: listEntry,
  legal_entity: legalEntity,
  location,
  cost_centre: costCentre,
  grade,
  grade_range: gradeRange,
  job,
  unit,
  unit_hiring: unitHiring,
  position,
  position_limits: positionLimits,
  person,
  person_name: personName,
  contact,
  employment,
  contract,
  placement,
  pay,
} as const;

export type SectionName = keyof typeof sections;
export type Values<S extends SectionName = SectionName> = z.infer<(typeof sections)[S]['fields']>;

export const sectionNames = Object.keys(sections) as SectionName[];

export const sectionOf = (name: SectionName): Section => sections[name] as unknown as Section;

/** The sections of one kind of thing, its base section first. */
export const sectionsOf = (kind: Kind): SectionName[] =>
  sectionNames.filter((name) => sections[name].kind === kind);

const refs = new Map(sectionNames.map((name) => [name, refsOf(sectionOf(name))]));

/** Fields of a section that name other things. */
export const sectionRefs = (name: SectionName) => refs.get(name) ?? [];
