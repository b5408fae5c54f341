// Who may let others in, on days worked out by hand.
import { describe, expect, test } from '@jest/globals';
import { type AccountRole, type Day, type Grant, Catalogue, preset, presets } from '@gremium/contract';
import { type Administering, nobodyAdministersOn, notTheirsToGive, roleNotTheirs } from './administration';

const TODAY = '2026-11-23' as Day;
const all = { type: 'all' } as const;
const admin = (more: Partial<AccountRole> = {}): AccountRole => ({
  role: 'administrator',
  scope: all,
  ...more,
});
const account = (roles: AccountRole[], more: Partial<Administering> = {}): Administering => ({
  isActive: true,
  roles,
  grants: [],
  accessUntil: null,
  ...more,
});
const on = (...accounts: Administering[]) => nobodyAdministersOn(accounts, preset, TODAY);

describe('somebody can let others in', () => {
  test('always, where one account may for ever; never without one, or with a paused one only', () => {
    expect(on(account([admin()]))).toBeNull();
    expect(on()).toBe(TODAY);
    expect(on(account([admin()], { isActive: false }))).toBe(TODAY);
    expect(on(account([{ role: 'auditor', scope: all }]))).toBe(TODAY);
  });

  test('only over everything: an administrator of a branch lets nobody in', () => {
    expect(on(account([admin({ scope: { type: 'branch', unitId: 4 } })]))).toBe(TODAY);
  });

  test('from the day after the last day of the last gift, or of access, nobody does', () => {
    expect(on(account([admin({ lastDay: '2026-12-31' as Day })]))).toBe('2027-01-01');
    expect(on(account([admin()], { accessUntil: '2027-03-31' as Day }))).toBe('2027-04-01');
    expect(on(account([admin()], { accessUntil: '2026-11-22' as Day }))).toBe(TODAY);
  });

  test('a gap between two gifts counts, one on the same day does not', () => {
    const first = account([admin({ lastDay: '2026-12-31' as Day })]);
    expect(on(first, account([admin({ from: '2027-01-01' as Day })]))).toBeNull();
    expect(on(first, account([admin({ from: '2027-01-02' as Day })]))).toBe('2027-01-01');
  });

  test('an own role counts by what it gives', () => {
    const role = (acts: ['access'] | []) =>
      new Catalogue(preset.sections, 1, new Map([['keeper', { id: 9, values: keeper(acts) }]]));
    const one = [account([{ role: 'keeper', scope: all }])];
    expect(nobodyAdministersOn(one, role(['access']), TODAY)).toBeNull();
    expect(nobodyAdministersOn(one, role([]), TODAY)).toBe(TODAY);
    expect(nobodyAdministersOn(one, preset, TODAY)).toBe(TODAY);
  });
});

const keeper = (acts: ['access'] | []) => ({
  code: 'keeper',
  label: { en: 'Keeper', de: 'Hüter' },
  note: null,
  acts: [...acts],
  rights: { pay: 'view' as const },
  others: 'none' as const,
  follows: null,
  hides: null,
  retired: null,
});

describe('nobody gives more than they have', () => {
  const grant = (more: Partial<Grant>): Grant => ({ acts: ['access'], sections: {}, scope: all, ...more });
  test('a keeper of access gives what they see over everything, and no more', () => {
    const giver = { grants: [grant({ sections: { pay: 'view', person: 'edit' } })] };
    const gift = (acts: Grant['acts'], sections: Grant['sections']) =>
      notTheirsToGive(giver, { acts, sections }, preset);
    expect(gift(['access'], { pay: 'view', person: 'propose' })).toBeNull();
    expect(gift([], { pay: 'edit' })).toBe('pay');
    expect(gift(['hire'], {})).toBe('hire');
    expect(gift([], { contract: 'none' })).toBeNull();
  });

  test('what is theirs in a part only they do not give', () => {
    const giver = { grants: [grant({ sections: { pay: 'view' }, scope: { type: 'branch', unitId: 4 } })] };
    expect(notTheirsToGive(giver, { acts: [], sections: { pay: 'view' } }, preset)).toBe('pay');
  });

  test('an administrator gives everything, sensitive sections too', () => {
    const { grants } = { grants: [grantOfAdministrator()] };
    expect(roleNotTheirs({ grants }, admin({ also: { bank_account: 'edit' } }), preset)).toBeNull();
  });
});

const grantOfAdministrator = (): Grant => presets.administrator()[0] as Grant;
