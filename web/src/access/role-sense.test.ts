// What the form of a role says, and what is kept of it.
import { describe, expect, test } from '@jest/globals';
import { type Section, preset } from '@gremium/contract';
import { byLevel, codeOf, differences, formOf, groupOf, kept, levelIn, noRole } from './role-sense';

const section = (name: string): Section => preset.section(name);
const label = { en: 'Copy', de: 'Kopie' };

describe('the form of a role', () => {
  test('of a manager shows what the role gives: pay hidden, names seen, nothing sensitive', () => {
    const form = formOf('manager', label, preset);
    expect(levelIn(form, section('pay'))).toBe('none');
    expect(levelIn(form, section('person_name'))).toBe('view');
    expect(levelIn(form, section('bank_account'))).toBe('none');
    expect(byLevel(form, preset).edit).toEqual([]);
  });

  test('keeps each section by its level, so that a copy stays as it was when sections still to come are said otherwise', () => {
    const copy = { ...formOf('manager', label, preset), others: 'edit' as const };
    const { rights, others } = kept(copy, preset);
    expect([rights['pay'], rights['person_name'], others]).toEqual(['none', 'view', 'edit']);
    expect(Object.keys(rights).sort()).toEqual([...preset.names].sort());
  });

  test('a role of nothing gives nothing, and what is sensitive only where it is named', () => {
    const form = { ...noRole(), others: 'view' as const };
    expect(levelIn(form, section('pay'))).toBe('view');
    expect(levelIn(form, section('bank_account'))).toBe('none');
    expect(kept(noRole(), preset)).toMatchObject({ acts: null, follows: null, hides: null });
  });

  test('says how many sections and acts are otherwise', () => {
    const before = formOf('manager', label, preset);
    const after = {
      ...before,
      acts: ['hire' as const],
      levels: { ...before.levels, pay: 'view' as const },
      hides: ['contact.value'],
      follows: ['pay'],
    };
    expect(differences(before, after, preset)).toEqual({ sections: 2, acts: 1, isSame: false });
    expect(differences(before, before, preset).isSame).toBe(true);
  });

  test('sections stand by whose they are; a code is made of the name', () => {
    expect(
      ['person_name', 'pay', 'position_limits', 'list_entry'].map((name) => groupOf(section(name))),
    ).toEqual(['person', 'employment', 'structure', 'lists']);
    expect(codeOf('Port doctor')).toBe('port_doctor');
  });
});
