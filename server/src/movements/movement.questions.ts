import type { Change, Day } from '@gremium/contract';
import { effects } from '@gremium/core';
import type { Asking } from '../time/questions';

export const movementQuestions = {
  /** What a change would do on a day beside its values; null if it is of later entries. The register is left as it was. */
  effects: ({ facts }: Asking, { change, firstDay }: { change: Change; firstDay: Day }) =>
    facts.columns.fits(change) ? effects(facts.columns, change, firstDay) : null,
};
