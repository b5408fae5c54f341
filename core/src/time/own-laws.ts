// Laws of own fields: what is to be filled by whoever records something new, and what is said once.
import type { Change, FieldMeta, Row, SectionName } from '@gremium/contract';
import { overlaps } from './calendar';
import type { Offence } from './offence';
import { problem, thing } from './problem';
import type { Register } from './register';
import { isEqual } from './timeline';

type Values = Record<string, unknown>;
const valueOf = (row: Row, field: string): unknown => (row.values as Values)[field] ?? null;

const unfilled = (row: Row, before: readonly Row[], field: string): Offence[] => {
  // where it was empty before, whoever changes something else is not stopped
  const isAsked = valueOf(row, field) === null && !before.some((was) => valueOf(was, field) === null);
  return isAsked ? [{ problem: problem('field_required', {}, field), rows: [row], on: row }] : [];
};

const saidTwice = (register: Register, row: Row, field: string): Offence[] => {
  const value = valueOf(row, field);
  const owner = register.catalogue.section(row.section).owner;
  const other = (
    register.valued(row.section, field as never, String(value).toLowerCase() as never) as Row[]
  ).find((one) => one.thing !== row.thing && overlaps(one, row));
  if (!other || !owner) return [];
  const whose = thing(owner.kind, valueOf(other, owner.field) as number);
  return [
    {
      problem: problem('field_unique', { owner: whose, value: String(value) }, field),
      rows: [row, other],
      on: row,
    },
  ];
};

/** Own fields that are to be filled (`field_required`) or said by one owner only (`field_unique`), of what is new in a change. */
export const ownFieldsFit = (register: Register, { recorded, superseded }: Change): Offence[] => {
  const found: Offence[] = [];
  for (const row of recorded) {
    if (!row.section.startsWith('own.')) continue;
    const before = superseded.filter((was) => was.thing === row.thing && was.section === row.section);
    for (const [field, meta] of register.catalogue.section(row.section as SectionName).metas as Map<
      string,
      FieldMeta
    >) {
      if (meta.required) found.push(...unfilled(row, before, field));
      const isNew = !before.some((was) => isEqual(valueOf(was, field), valueOf(row, field)));
      if (meta.unique && isNew && valueOf(row, field) !== null)
        found.push(...saidTwice(register, row, field));
    }
  }
  return found;
};
