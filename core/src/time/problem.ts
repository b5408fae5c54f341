import { type Param, type Problem, type ProblemCode, type ThingRef, problemCodes } from '@gremium/contract';
import type { Kind } from '@gremium/contract';

/** A problem with its usual severity. `field` names the field of the request or section at fault. */
export const problem = (code: ProblemCode, params: Record<string, Param> = {}, field?: string): Problem => ({
  code,
  severity: problemCodes[code],
  params,
  ...(field ? { field } : {}),
});

/** A thing as a parameter of a problem; the server turns it into a label the viewer may see. */
export const thing = (kind: Kind, id: number): ThingRef => ({ kind, id });

/** Whether a problem refuses what was asked. */
export const isError = ({ severity }: Problem): boolean => severity === 'error';
/** Whether any problem refuses what was asked. */
export const hasErrors = (problems: readonly Problem[]): boolean => problems.some(isError);
