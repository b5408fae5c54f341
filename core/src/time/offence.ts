import type { Problem, Row } from '@gremium/contract';
import type { Period } from './calendar';

/** A broken law: the problem, the rows that break it, the days on which they do. */
export type Offence = { problem: Problem; rows: readonly Row[]; on: Period };
