import { z } from 'zod';
import { Text, choiceOf, choices, constant, field, json, section, text, yesNo } from '../time/section';
import { Act, Level } from './viewer';

/** The code of a role: a preset one's name, or what the organisation called its own. */
export const RoleCode = z.string().regex(/^[a-z][a-z0-9_]{1,39}$/, { error: 'role_code' });

const SectionKey = z.string().regex(/^([a-z][a-z_]{1,59}|own\.\d{1,15})$/);

/** A role of the organisation's own: what it gives, section by section. Those that ship are the program's (`roleRules`). */
export const OwnRole = z.strictObject({
  code: constant(field(RoleCode, { is: 'code', looked: true })),
  label: json(z.strictObject({ en: Text, de: Text })),
  note: text().nullable(),
  acts: choices(...(Act.options as [Act, ...Act[]])).nullable(),
  /** The level on each section named; on those not named, what is said of sections still to come. */
  rights: json(z.record(SectionKey, Level)),
  /** On every section not named, also of those to come; not on sensitive ones. */
  others: choiceOf(Level),
  /** Sections whose past follows who is inside today. */
  follows: json(z.array(SectionKey).max(200)).nullable(),
  /** Fields (`pay.amount`) that it does not show, of sections that it gives. */
  hides: json(z.array(z.string().max(130)).max(500)).nullable(),
  /** Given to nobody anew; who has it keeps it. */
  retired: yesNo().nullable(),
});
export type OwnRole = z.infer<typeof OwnRole>;

/** Entries of it define the catalogue. */
export const roleSection = section('role', 'role', OwnRole, { scope: 'everybody' });
