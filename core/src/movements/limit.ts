/** The default FTE of a job (hundredths) as the limit of a position: nothing said is no limit. */
export const limitOf = (fte: number): number | null => (fte > 0 ? fte : null);
