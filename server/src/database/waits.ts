// How long somebody waits: one setting of a process, from which all others follow.

/** Seconds that nobody waits longer than, unless the process says otherwise (`GREMIUM_WAITS`). */
export const MOST_WAITS = 10;

/** Seconds that one question to the register in memory may be worked on without a pause (`GREMIUM_QUESTION`). */
export const MOST_QUESTION = 20;

/** Milliseconds that are waited for a worker: a little less, so that it is this process that says so. */
export const patienceOf = (waits: number): number => waits * 950;
