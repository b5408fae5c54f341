// What the organisation may say of a field: one setting each, of a field that there is; what must be filled is hidden from
// nobody; a field is shown only where its rows and those of the other section are of one thing, one at a time.
import { type Change, type Row, type Section, type SectionName, fitsOwnField } from '@gremium/contract';
import type { Offence } from './offence';
import { problem } from './problem';
import type { Register } from './register';

type Setting = Row<'field_setting'>;

const ownerOf = ({ kind, owner }: Section): string => (owner && owner.field !== 'thing' ? owner.kind : kind);

const isOneAtATime = ({ several, base, own, owner }: Section): boolean =>
  !several && (own !== null || !base || owner === null);

/** Whether fields of one section can be shown under another one: both say something of the same thing, one row at a time. */
export const canShowIn = (kept: Section, other: Section): boolean =>
  kept.name !== other.name && isOneAtATime(kept) && isOneAtATime(other) && ownerOf(kept) === ownerOf(other);

// By what somebody is called, and what is where: lists, figures and pages say it all over.
const NAMING = new Set([
  ...['person_name.given', 'person_name.family', 'unit.parentId', 'unit.headPositionId'],
  ...['unit.legalEntityId', 'position.reportsToId'],
]);

/** Whether a field is hidden from nobody: whoever records in its section must fill it, or others are named or placed by it. */
export const isNeeded = (section: Section, field: string): boolean =>
  !(field in section.nulls) ||
  section.metas.get(field)?.required === true ||
  NAMING.has(`${section.name}.${field}`);

const settingFits = (register: Register, row: Setting): Offence[] => {
  const { section: name, field, hiddenFrom, shownIn } = row.values;
  const offence = (code: Offence['problem']['code'], at: string, rows: readonly Row[] = [row]): Offence => ({
    problem: problem(code, {}, at),
    rows,
    on: row,
  });
  const { catalogue } = register;
  const section = catalogue.has(name) ? catalogue.section(name) : undefined;
  if (!section?.metas.has(field) || field === section.owner?.field)
    return [offence('setting_of_nothing', 'field')];
  const found: Offence[] = [];
  const other = [...register.all('field_setting')].find(
    ({ thing, values }) => thing !== row.thing && values.section === name && values.field === field,
  );
  if (other) found.push(offence('setting_there', 'field', [row, other]));
  if (hiddenFrom !== null && isNeeded(section, field)) found.push(offence('setting_needed', 'hiddenFrom'));
  if (shownIn !== null && !(catalogue.has(shownIn) && canShowIn(section, catalogue.section(shownIn))))
    found.push(offence('setting_elsewhere', 'shownIn'));
  return found;
};

// A field that is hidden from somebody is not made one that must be filled.
const hiddenAndNeeded = (register: Register, row: Row<'own_field'>): Offence[] => {
  if (!row.values.required) return [];
  const name = `own.${row.values.sectionId}` as SectionName;
  const setting = [...register.all('field_setting')].find(
    ({ values }) => values.section === name && values.field === `f${row.thing}` && values.hiddenFrom !== null,
  );
  return setting
    ? [{ problem: problem('setting_needed', {}, 'required'), rows: [row, setting], on: row }]
    : [];
};

// What is preset must be what the field can say.
const usualFits = (row: Row<'own_field'>): Offence[] => {
  const { thing: id, values } = row;
  const isFit = values.usual === null || fitsOwnField({ id, values }, values.usual);
  return isFit ? [] : [{ problem: problem('value_invalid', {}, 'usual'), rows: [row], on: row }];
};

/** Settings of fields that cannot be, of what is new in a change. */
export const settingsFit = (register: Register, { recorded }: Change): Offence[] =>
  recorded.flatMap((row) => {
    if (row.section === 'field_setting') return settingFits(register, row as Setting);
    if (row.section !== 'own_field') return [];
    const field = row as Row<'own_field'>;
    return [...hiddenAndNeeded(register, field), ...usualFits(field)];
  });
