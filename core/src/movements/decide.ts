import type { Day, MovementInput, MovementKind, SlipValue, ThingRef } from '@gremium/contract';
import type { Draft } from '../time/draft';

/** What a decision is given beside the register: today, and the number of somebody new. */
export type Given = { today: Day; number?: string | undefined };

/** Others whom a movement touches, each with what changes of them; `count` things. */
export type Concerned = {
  count: number;
  lines: { what: ThingRef; where: ThingRef | null; values: SlipValue[] }[];
};

/** What a movement is about once it is done, by the kind of thing, and its values with their sources. */
export type MovedThings = {
  things: {
    personId?: number;
    employmentId?: number;
    positionId?: number;
    placementId?: number;
    unitId?: number;
    jobId?: number;
  };
  slip: SlipValue[];
  concerned?: Concerned;
};

/** Decides a kind of movement: writes to the draft, adds problems to it; null where nothing can come of it. */
export type Decide<K extends MovementKind> = (
  draft: Draft,
  input: MovementInput<K>,
  given: Given,
) => MovedThings | null;
