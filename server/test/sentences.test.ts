// What is said of what is wrong, read aloud in both languages: a wrong preposition once sent somebody looking for a free place.
import { describe, expect, test } from '@jest/globals';
import type { Param, ProblemCode } from '@gremium/contract';
import { problem } from '@gremium/core';
import { sentenceOf } from '@gremium/server';

const person = (label: string) => ({ kind: 'person', id: 1, label }) as const;
const unit = { kind: 'unit', id: 2, label: 'Galley' } as const;
const hidden = { kind: 'person', id: 3, hidden: true } as const;

const SAID: [ProblemCode, Record<string, Param>, string, string][] = [
  [
    'place_taken',
    { day: '2027-01-01', until: '2027-03-31', holders: [person('Liis Kask'), hidden] },
    'From 01.01.2027 until 31.03.2027 the place is held by Liis Kask, a record you may not see.',
    'Von 01.01.2027 bis 31.03.2027 ist der Platz besetzt: Liis Kask, ein Datensatz, den Sie nicht sehen dürfen.',
  ],
  [
    'fte_taken',
    { day: '2027-01-01', until: 'infinity', over: '0.1', holders: [person('Liis Kask')] },
    'From 01.01.2027 until further notice it would be 0.1 FTE over the limit: held by Liis Kask.',
    'Von 01.01.2027 bis auf Weiteres wären es 0.1 VZÄ über der Grenze; besetzt: Liis Kask.',
  ],
  [
    'record_undone',
    { name: 'Nova Tamm', entry: 12 },
    'Nova Tamm is not on the register: what entry 12 recorded was undone.',
    'Nova Tamm steht nicht im Register: Was Eintrag 12 erfasst hat, wurde rückgängig gemacht.',
  ],
  [
    'hires_need_position',
    { unit },
    'Hires into Galley need a position.',
    'Einstellungen in Galley brauchen eine Planstelle.',
  ],
  [
    'import_refused_rows',
    { count: 1 },
    'Refused rows: 1. Mend them, or leave them out.',
    'Abgelehnte Zeilen: 1. Bitte berichtigen oder weglassen.',
  ],
  [
    'position_not_in_force',
    { day: '2027-01-01', standing: 'gesperrt' },
    'The position is gesperrt on 01.01.2027.',
    'Die Planstelle ist am 01.01.2027 nicht gültig (gesperrt).',
  ],
  [
    'pay_outside_range',
    {
      ...{ minimum: '2186.67', maximum: '3200', currency: 'EUR', basis: 'month', weekly: '40' },
      ...{ gradeMinimum: '2050', gradeMaximum: '3000', gradeHours: '37.5' },
    },
    'The pay lies outside the range, 2186.67 to 3200 EUR a month at 40 h a week. The grade says 2050 to 3000 a month at 37.5 h.',
    'Das Entgelt liegt außerhalb der Spanne, 2186.67 bis 3200 EUR im Monat bei 40 Wochenstunden. Die Entgeltgruppe sagt 2050 bis 3000 im Monat bei 37.5 Wochenstunden.',
  ],
  [
    'placement_none',
    { day: '2027-01-01' },
    'From 01.01.2027 there is no primary placement.',
    'Ab 01.01.2027 fehlt eine Hauptbesetzung.',
  ],
  [
    'own_record',
    {},
    'Nobody records their own pay, contract, placement or rights.',
    'Niemand erfasst eigenes Entgelt, eigenen Vertrag, eigene Stellenbesetzung oder eigene Rechte.',
  ],
];

describe('sentences', () => {
  test.each(SAID)('%s', (code, params, en, de) => {
    const found = problem(code, params);
    expect([sentenceOf(found, 'en'), sentenceOf(found, 'de')]).toEqual([en, de]);
  });
});
