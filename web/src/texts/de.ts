import { labels } from '@gremium/contract/labels/de';
import { problemSentences } from '@gremium/contract/sentences/de';
import { de as access } from '../access/texts/de';
import { de as frame } from '../frame/texts/de';
import { de as movements } from '../movements/texts/de';
import { de as people } from '../people/texts/de';
import { de as structure } from '../structure/texts/de';
import { de as time } from '../time/texts/de';
import type { Texts } from './en';

/** The same in German. */
export const de: Texts = {
  ...access,
  ...frame,
  ...movements,
  ...people,
  ...structure,
  ...time,
  problem: problemSentences,
  refusal: {
    given: 'Das dürfen Sie nicht: Es fehlt „{{given}}“.',
    who: 'Das dürfen Sie nicht: Es fehlt „{{given}}“. Geben kann es {{who}}.',
  },
  section: labels.section,
  field: labels.field,
  fieldOf: labels.fieldOf,
  choice: labels.choice,
};
