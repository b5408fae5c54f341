import { labels } from '@gremium/contract/labels/en';
import { problemSentences } from '@gremium/contract/sentences/en';
import { en as access } from '../access/texts/en';
import { en as frame } from '../frame/texts/en';
import { en as movements } from '../movements/texts/en';
import { en as people } from '../people/texts/en';
import { en as structure } from '../structure/texts/en';
import { en as time } from '../time/texts/en';

/** All texts of the application in English; each feature keeps its own. */
export const en = {
  ...access,
  ...frame,
  ...movements,
  ...people,
  ...structure,
  ...time,
  problem: problemSentences,
  refusal: {
    given: 'You may not do this: what is missing is “{{given}}”.',
    who: 'You may not do this: what is missing is “{{given}}”. It can be given by {{who}}.',
  },
  section: labels.section,
  field: labels.field,
  fieldOf: labels.fieldOf,
  choice: labels.choice,
};

export type Texts = typeof en;
