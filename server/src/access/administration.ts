// That somebody may always let others in (law `nobody_administers`), and what is asked of whoever changes roles. Asked wherever a
// role, a gift or an account changes, under one lock; a leaving is recorded all the same, and says it.
import type { Catalogue, Change, Day, OwnRole, Problem, Row, Viewer } from '@gremium/contract';
import { Catalogue as CatalogueOf, grantOf, may, roleRules, ruleOf } from '@gremium/contract';
import {
  type Administering,
  type Register,
  BEGINNING,
  OPEN,
  addDays,
  byFrom,
  later,
  mayLetIn,
  nobodyAdministersOn,
  notTheirsToGive,
  problem,
} from '@gremium/core';
import { Failure } from '../database/failure';
import { type Db, many } from '../database/sql';
import { todayOf } from '../structure/organisation.sql';
import type { Server } from '../time/act';
import type { Neighbourhood } from '../time/neighbourhood';
import { type Letting, lettingIn, lockAccounts } from './session.sql';

/** The roles by which somebody may let others in. */
const lettingRoles = (catalogue: Catalogue): string[] =>
  [...Object.keys(roleRules), ...catalogue.roles.keys()].filter((role) =>
    ruleOf(role, catalogue)?.acts.includes('access'),
  );

const administering = async (db: Db, catalogue: Catalogue): Promise<(Administering & Letting)[]> =>
  many<Administering & Letting>(db, lettingIn(lettingRoles(catalogue)));

// So many names are enough to know whom to ask.
const NAMED = 3;

/** A refusal for want of a right, with what is missing and the names of those who could give it today. */
export const withGivers = async (
  { pool, catalogues, clock }: Pick<Server, 'pool' | 'catalogues' | 'clock'>,
  failure: Failure,
): Promise<Failure> => {
  const lacks = ({ code, params }: Problem) =>
    code === 'right_missing' && ('right' in params || 'section' in params);
  if (!failure.problems.some(lacks)) return failure;
  const catalogue = await catalogues.now(pool);
  const accounts = await administering(pool, catalogue);
  const on = await todayOf(pool, clock);
  const who = accounts
    .filter((account) => mayLetIn(account, catalogue, on))
    .slice(0, NAMED)
    .map(({ name }) => name);
  const problems = failure.problems.map((one) => {
    if (!lacks(one)) return one;
    const [given = ''] = String(one.params['section'] ?? one.params['right']).split(' ');
    return { ...one, params: { ...one.params, given, ...(who.length > 0 ? { who: who.join(', ') } : {}) } };
  });
  return new Failure(problems, failure.status);
};

/** To be asked after a change of accounts or gifts, in its transaction, which holds the lock of accounts. Throws `nobody_administers`. */
export const mustAdminister = async (tx: Db, catalogue: Catalogue, today: Day): Promise<void> => {
  const day = nobodyAdministersOn(await administering(tx, catalogue), catalogue, today);
  if (day) throw new Failure([problem('nobody_administers', { day })]);
};

// The roles there are once a change of them is recorded: of each the latest row counts, as everywhere.
const rolesAfter = (catalogue: Catalogue, { recorded, superseded }: Change): Catalogue => {
  const roles = new Map([...catalogue.roles.values()].map((role) => [role.id, role]));
  const rows = (of: readonly Row[]) => of.filter((row) => row.section === 'role') as Row<'role'>[];
  for (const { thing } of rows(superseded)) roles.delete(thing);
  for (const { thing, values } of rows(recorded).sort(byFrom))
    roles.set(thing, { id: thing, values: values as OwnRole });
  return new CatalogueOf(
    catalogue.sections,
    catalogue.number,
    new Map([...roles.values()].map((role) => [role.values.code, role])),
  );
};

/** What stops a change of roles, for whoever makes it, on whatever way; nothing where none changes. */
export const roleChangeProblems = async (
  tx: Db,
  viewer: Viewer & { holds?: readonly string[] },
  { change, catalogue, today }: { change: Change; catalogue: Catalogue; today: Day },
): Promise<Problem[]> => {
  const rows = [...change.recorded, ...change.superseded].filter(
    (row) => row.section === 'role',
  ) as Row<'role'>[];
  if (rows.length === 0) return [];
  if (!may(viewer).doEverywhere('access')) return [problem('right_missing', { right: 'access' })];
  const codes = new Set(rows.map(({ values }) => values.code));
  if (viewer.holds?.some((role) => codes.has(role))) return [problem('own_role')];
  const after = rolesAfter(catalogue, change);
  const found: Problem[] = [];
  for (const code of codes) {
    const others = [...catalogue.roles.values()].filter(
      (role) => role.values.code === code && !rows.some(({ thing }) => thing === role.id),
    );
    if (others.length > 0 || code in roleRules) found.push(problem('role_there', {}, 'code'));
    for (const section of Object.keys(after.roles.get(code)?.values.rights ?? {}))
      if (!catalogue.has(section)) found.push(problem('value_invalid', {}, 'rights'));
    const grant = grantOf({ role: code, scope: { type: 'all' } }, after);
    const more = notTheirsToGive(viewer, grant, after);
    if (more) found.push(problem('gives_more', { given: more }, 'rights'));
  }
  await many(tx, lockAccounts);
  const day = nobodyAdministersOn(await administering(tx, after), after, today);
  if (day) found.push(problem('nobody_administers', { day }));
  return found;
};

// The last day of access by the employments of a person: of the one that gives it longest.
const accessUntil = (register: Register, personId: number): Administering['accessUntil'] => {
  const rows = register.referrers('employment', 'personId', personId);
  if (rows.length === 0) return null;
  const ends = [...new Set(rows.map(({ thing }) => thing))].map((id) => {
    const own = rows.filter(({ thing }) => thing === id);
    const said = own.flatMap(({ values }) => values.accessUntil ?? []).sort()[0];
    const end = own.map(({ until }) => until).reduce(later);
    const last = end === OPEN ? end : addDays(end, -1);
    return said ?? last;
  });
  return ends.reduce(later, BEGINNING);
};

/** A note where employments end by which the last of those who may let others in have their access. Recorded all the same. */
export const administrationEnds = async (
  tx: Db,
  near: Neighbourhood,
  { change, catalogue, today }: { change: Change; catalogue: Catalogue; today: Day },
): Promise<Problem[]> => {
  const people = new Set(
    change.superseded.flatMap((row) =>
      row.section === 'employment' ? [(row as Row<'employment'>).values.personId] : [],
    ),
  );
  if (people.size === 0) return [];
  const accounts = await administering(tx, catalogue);
  if (!accounts.some(({ personId }) => personId !== null && people.has(personId))) return [];
  await near.loadNaming('employment', 'personId', [...people]);
  const { register } = near;
  register.apply(change);
  const after = accounts.map((account) =>
    account.personId !== null && people.has(account.personId)
      ? { ...account, accessUntil: accessUntil(register, account.personId) }
      : account,
  );
  register.revert(change);
  const day = nobodyAdministersOn(after, catalogue, today);
  return day ? [problem('administration_ends', { day })] : [];
};
