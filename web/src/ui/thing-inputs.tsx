// All fields of a section as inputs of a form, read as they are typed: for what is made anew.
import { type PresetName, preset } from '@gremium/contract';
import { RowRegister } from '@gremium/core';
import { useState } from 'react';
import { useLens } from '../frame/lens';
import { useReferenceRegister } from '../time/time.queries';
import { isDay } from './day-input';
import { EntryField } from './entry-field';
import { useFieldName } from './field-name';
import { FieldInput } from './field-input';
import { fieldsOf } from './fields';
import { readTyped } from './typed';

/** What is typed of a thing, by the names of its fields. */
export type TypedThing = Record<string, unknown>;

/** What is typed of a thing, and what takes it down field by field. */
export const useTypedThing = (begun: () => TypedThing = () => ({})) => {
  const [typed, setTyped] = useState(begun);
  const set = (name: string) => (value: unknown) => setTyped((before) => ({ ...before, [name]: value }));
  return [typed, set] as const;
};

const isBlank = (value: unknown): boolean => value === null || value === undefined || value === '';

/** Whether all that must be said of a thing is typed. */
export const isThingReady = (section: PresetName, typed: TypedThing): boolean =>
  fieldsOf(section).every(({ name, is }) =>
    isBlank(typed[name]) ? name in preset.section(section).nulls : is !== 'day' || isDay(typed[name]),
  );

/** The values of a thing as they are typed; what could not be read stays as it is, and is refused with its field. */
export const readThing = (section: PresetName, typed: TypedThing, reading: string): TypedThing =>
  Object.fromEntries(
    fieldsOf(section).map((field) => {
      const read = readTyped(field, typed[field.name] ?? null, reading);
      return [field.name, 'problem' in read ? typed[field.name] : read.value];
    }),
  );

type InputsProps = {
  section: PresetName;
  typed: TypedThing;
  set: (name: string) => (value: unknown) => void;
  /** Those shown; left out: all. */
  only?: readonly string[];
};

/** Inputs of a section, one a line of the grid. */
export const ThingInputs = ({ section, typed, set, only }: InputsProps) => {
  const { on } = useLens();
  const register = useReferenceRegister() ?? new RowRegister();
  const nameOf = useFieldName();
  const showing = {
    register,
    nameOf: (kind: string, id: number | null | undefined) =>
      (register.rows(kind as 'location', id ?? 0).at(-1)?.values as { name?: string } | undefined)?.name ??
      '',
  };
  return fieldsOf(section)
    .filter(({ name }) => !only || only.includes(name))
    .map((field, i) => {
      const label = nameOf(section, field.name);
      const id = `${section}-${field.name}`;
      return (
        <EntryField key={field.name} id={id} label={label}>
          <FieldInput
            {...{ id, label, field, showing, on }}
            autoFocus={i === 0}
            value={typed[field.name] ?? null}
            onChange={set(field.name)}
          />
        </EntryField>
      );
    });
};
