// What a hire says in people's own fields: a row of each section that something is said in, from the first day.
import { type Day, type HireInput, type SectionName, askedAtHire } from '@gremium/contract';
import { OPEN } from '../time/calendar';
import type { Draft } from '../time/draft';
import { problem } from '../time/problem';

type Said = NonNullable<HireInput['own']>;

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
