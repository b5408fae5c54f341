// What a hire says in people's own fields: a row of each section that something is said in, from the first day.
import {
  type AskedAtHire,
  type Catalogue,
  type Day,
  type Grant,
  type HireInput,
  type Kind,
  type Problem,
  type SectionName,
  askedAtHire,
  hiddenFields,
  may,
} from '@gremium/contract';
import { OPEN } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem } from '../time/problem';

type Said = NonNullable<HireInput['own']>;

/** What is to be known of own fields of a hire before it is decided. */
export type OwnOfHire = {
  /** The first that was said and is not the viewer's to fill. */
  strange: string | null;
  /** Things that are named, at their paths: they must be the viewer's to see. */
  named: { path: string; kind: Kind; id: number }[];
  /** What has to be filled and is not, as far as it is the viewer's to fill. */
  missing: Problem[];
};

/** What was said in own fields of a hire, by the rights of whoever says it. */
export const ownOfHire = (catalogue: Catalogue, grants: readonly Grant[], said: Said): OwnOfHire => {
  const hidden = hiddenFields(grants);
  const asked = askedAtHire(catalogue.sections);
  const isTheirs = ({ section, field }: AskedAtHire): boolean =>
    !hidden.has(`${section}.${field}`) && may({ grants: [...grants] }).edit(section);
  const isBlank = ({ field }: AskedAtHire): boolean => (said[field] ?? null) === null;
  return {
    strange: asked.find((one) => one.field in said && !isTheirs(one))?.field ?? null,
    named: asked.flatMap(({ field, meta }) => {
      const id = said[field];
      return meta.is === 'ref' && typeof id === 'number'
        ? [{ path: `own.${field}`, kind: meta.kind, id }]
        : [];
    }),
    missing: asked
      .filter((one) => isTheirs(one) && one.meta.required && isBlank(one))
      .map(({ field }) => problem('field_required', {}, `own.${field}`)),
  };
};

/** Records what was said; a value that a field cannot have, or a field that a hire does not ask for, is a problem at `own.<field>`. */
export const recordOwnAtHire = (draft: Draft, personId: number, said: Said, firstDay: Day): void => {
  const { catalogue } = draft.register;
  const asked = askedAtHire(catalogue.sections);
  for (const field of Object.keys(said))
    if (!asked.some((one) => one.field === field))
      draft.problems.push(problem('field_unknown', { field }, `own.${field}`));
  for (const section of new Set(asked.map((one) => one.section))) {
    const values = Object.fromEntries(
      asked.flatMap((one) =>
        one.section === section && (said[one.field] ?? null) !== null ? [[one.field, said[one.field]]] : [],
      ),
    );
    if (Object.keys(values).length === 0) continue;
    const read = catalogue.section(section).create.safeParse({ ...values, ownerId: personId });
    if (read.success)
      draft.begin(section as SectionName, draft.newId(), { from: firstDay, until: OPEN }, read.data as never);
    else
      for (const { path } of read.error.issues)
        draft.problems.push(problem('value_invalid', {}, `own.${String(path[0])}`));
  }
};
