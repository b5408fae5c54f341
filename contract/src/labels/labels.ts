import type { z } from 'zod';
import type { PresetName, Values } from '../sections';
import type { Kind } from '../time/section';

type FieldOf<S extends PresetName> = keyof Values<S> & string;
/** Every field of a preset section. */
export type FieldName = { [S in PresetName]: FieldOf<S> }[PresetName];

// What stands in a list of options: words that are one of a few; no days, and no patterns, which say themselves what they are.
type Pattern = `${string}${'.' | ' ' | '/' | '-'}${string}`;
type Option<V> = V extends string
  ? string extends V
    ? never
    : V extends z.core.$brand | Pattern
      ? never
      : V
  : never;
type OptionOf<S extends PresetName> = {
  [F in FieldOf<S>]: Option<Values<S>[F] extends readonly (infer E)[] | null ? E : Values<S>[F]>;
}[FieldOf<S>];
/** Every option of every preset field that is chosen from a few. */
export type OptionName = { [S in PresetName]: OptionOf<S> }[PresetName];

/** What sections, fields and options are called, one catalogue a language: what is left out fails the type check. */
export type Labels = {
  section: Record<PresetName, string>;
  kind: Record<Kind, string>;
  field: Record<FieldName, string>;
  /** Where a field is called otherwise in one section. */
  fieldOf: { [S in PresetName]?: { [F in FieldOf<S>]?: string } };
  /** What a field is for, where its label does not say. */
  help: { [S in PresetName]?: { [F in FieldOf<S>]?: string } };
  choice: Record<OptionName, string>;
};

type Named = Record<string, string | undefined>;

/** What a field of a section is called; nothing for one that no language knows (an own one says it itself). */
export const fieldLabel = (
  { fieldOf, field }: Pick<Labels, 'fieldOf' | 'field'>,
  section: string,
  name: string,
): string | undefined =>
  (fieldOf[section as PresetName] as Named | undefined)?.[name] ?? (field as Named)[name];
