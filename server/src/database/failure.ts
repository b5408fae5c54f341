import type { Problem, ProblemCode } from '@gremium/contract';
import { problemCodes } from '@gremium/contract';
import { problem } from '@gremium/core';

const statuses: Partial<Record<ProblemCode, number>> = {
  sign_in_needed: 401,
  sign_in_failed: 401,
  right_missing: 403,
  field_not_yours: 403,
  other_site: 403,
  record_hidden: 404,
  picture_none: 404,
  record_undone: 404,
  record_later: 404,
  thing_unknown: 404,
  entry_unknown: 404,
  path_unknown: 404,
  report_unknown: 404,
  field_hidden: 403,
  subject_hidden: 403,
  conflict: 409,
  movement_conflict: 409,
  undo_plan_changed: 409,
  already_undone: 409,
  idempotency_other_request: 422,
  body_too_large: 413,
  too_many_requests: 429,
  json_invalid: 400,
  database_away: 503,
  database_busy: 503,
  starting: 503,
  register_busy: 503,
};

/** A refused request: its problems travel as problem details. */
export class Failure extends Error {
  readonly status: number;
  constructor(
    readonly problems: Problem[],
    status?: number,
  ) {
    super(problems.map(({ code }) => code).join(', '));
    const codes = problems.filter(({ severity }) => severity === 'error').map(({ code }) => code);
    this.status = status ?? codes.map((code) => statuses[code]).find(Boolean) ?? 422;
  }
}

export const fail = (...args: Parameters<typeof problem>): never => {
  throw new Failure([problem(...args)]);
};

const suffixes: [RegExp, ProblemCode][] = [
  [/_period$/, 'period'],
  [/_overlap$/, 'overlap'],
  [/_code_taken$/, 'code_taken'],
  [/_number_taken$/, 'number_taken'],
  [/^picture_size$/, 'picture_too_large'],
  [/^employment_apart$/, 'employment_overlap'],
  [/^(organisation|location|placement)_full_time$/, 'value_invalid'],
  [
    /^(job_fte|position_(standing|places|fte|handover)|journal_one|(import|take_out)_(format|state|work))$/,
    'value_invalid',
  ],
];

/** The problem code of a database constraint: its own name, or what its family means; undefined if unknown. */
export const codeOfConstraint = (constraint: string): ProblemCode | undefined =>
  constraint in problemCodes
    ? (constraint as ProblemCode)
    : suffixes.find(([pattern]) => pattern.test(constraint))?.[1];

type DatabaseError = { code?: string; constraint?: string; table?: string; message?: string };

// Classes 08 (connection) and 57P (shutdown, crash, starting up), and what the network says.
const AWAY = /^(08\w{3}|57P0[1-5]|53300|ECONN\w+|EPIPE|ETIMEDOUT|EHOSTUNREACH|ENOTFOUND|EAI_AGAIN)$/;
const AWAY_SAID =
  /Connection terminated|Client has encountered a connection error|not queryable|Query read timeout|server closed/i;
const NO_CONNECTION = /timeout exceeded when trying to connect/i;
// a lock, a statement or an idle transaction took too long
const BUSY = ['55P03', '57014', '25P03'];

/** Whether the connection of an error is not to be used again: it broke, or something on it is still waited for. */
export const isUnanswered = (error: unknown): boolean => {
  const { code = '', message = '' } = (error ?? {}) as DatabaseError;
  return AWAY.test(code) || AWAY_SAID.test(message) || code === '25P03';
};

/** The database away, not answering, or busy with somebody else for too long: said, and nothing was changed. */
export const unavailable = (error: unknown): Failure | undefined => {
  const { code = '', message = '' } = (error ?? {}) as DatabaseError;
  if (BUSY.includes(code) || NO_CONNECTION.test(message)) return new Failure([problem('database_busy')]);
  return isUnanswered(error) ? new Failure([problem('database_away')]) : undefined;
};

/** A refusal by the database as the problem it means; anything else is not a refusal. */
export const problemOf = (error: unknown): Problem | undefined => {
  const { code, constraint = '', table = '' } = (error ?? {}) as DatabaseError;
  // rows that are no versions (accounts, links) name their field by the constraint: account_person_id_fkey
  const [, column] = /^(?:account|one_time_link|session|draft|import)_(\w+)_fkey$/.exec(constraint) ?? [];
  if (code === '23503' && column)
    return problem(
      'thing_unknown',
      {},
      column.replace(/_(\w)/g, (_, letter: string) => letter.toUpperCase()),
    );
  if (code === '23503') return problem('reference_missing', { what: constraint });
  if (constraint === 'email_in_use') return problem('email_in_use', {}, 'email');
  if (!['23505', '23514', '23P01'].includes(code ?? '')) return undefined;
  const found = codeOfConstraint(constraint);
  const what = table.replace(/_version$/, '');
  return found && problem(found, { what }, found === 'code_taken' ? 'code' : undefined);
};

/** Deadlocks and failed serialisation: the act is tried again. */
export const isTransient = (error: unknown): boolean =>
  ['40P01', '40001'].includes((error as DatabaseError)?.code ?? '');
