// Columns of a file of people that say own fields: of sections of which there is one row a person.
import type { Catalogue } from '../catalogue';
import { type Grant, hiddenFields, may } from '../access/viewer';
import type { OwnName } from '../sections';
import type { FieldMeta } from '../time/field';

/** A column of an own field, by its name in files (`own.12.f34`). */
export type OwnColumn = { name: string; section: OwnName; field: string; meta: FieldMeta };

/** Own fields of people that a viewer may fill by a file of people. */
export const ownPeopleColumns = (catalogue: Catalogue, grants: readonly Grant[]): OwnColumn[] => {
  const hidden = hiddenFields(grants);
  return catalogue.sections.flatMap(({ name, own, owner, several, metas }) => {
    if (own === null || several || owner?.kind !== 'person') return [];
    if (!may({ grants }).edit(name)) return [];
    return [...metas].flatMap(([field, meta]): OwnColumn[] =>
      field === owner.field || meta.is === 'file' || meta.retired || hidden.has(`${name}.${field}`)
        ? []
        : [{ name: `${name}.${field}`, section: name as OwnName, field, meta }],
    );
  });
};
