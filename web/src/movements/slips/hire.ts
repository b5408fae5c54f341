import { listedFor } from '../fits';
import { alikeHire, hasPlace, hireMore, hireRows, hireTerms, notedPay, understoodPay } from '../hire-terms';
import { slip } from '../slip-declared';

/** Somebody new into a position, or, where hires need none, into a unit by a job. */
export const declared = slip('hire', {
  en: {
    submit: 'Complete hire now',
    title: 'A new person',
    lead: 'into {{where}}',
    more: 'Birth date, fixed term, hours, phone and the rest',
    fields: {
      'person.contacts.0.value': 'Email or phone',
      'person.contacts.1.value': 'Second phone',
      'pay.0.amount': 'Pay a month',
      'contract.kindId': 'Contract',
      firstDay: 'First day',
      lastDay: 'Last day, if fixed',
    },
    notes: {
      'person.contacts.0.value': 'One contact is enough; the rest can follow.',
      hours: 'left out: those of the position',
      jobId: 'or a job, where hires here need no position',
    },
    needs: { name: 'a name', contact: 'one contact', place: 'a position, or a job where hires need none' },
  },
  de: {
    submit: 'Einstellung jetzt abschließen',
    title: 'Eine neue Person',
    lead: 'in {{where}}',
    more: 'Geburtsdatum, Befristung, Stunden, Telefon und der Rest',
    fields: {
      'person.contacts.0.value': 'E-Mail oder Telefon',
      'person.contacts.1.value': 'Weiteres Telefon',
      'pay.0.amount': 'Entgelt im Monat',
      'contract.kindId': 'Vertrag',
      firstDay: 'Erster Tag',
      lastDay: 'Letzter Tag, falls befristet',
    },
    notes: {
      'person.contacts.0.value': 'Ein Kontakt genügt; der Rest kann folgen.',
      hours: 'leer: die der Planstelle',
      jobId: 'oder eine Tätigkeit, wo Einstellungen keine Planstelle brauchen',
    },
    needs: {
      name: 'ein Name',
      contact: 'ein Kontakt',
      place: 'eine Planstelle, oder eine Tätigkeit, wo es keine braucht',
    },
  },
  title: ({ input, words }) => {
    const { given, family } = nameIn(input);
    return [given, family].filter(Boolean).join(' ') || words.title;
  },
  lead: ({ named, words }) => words.lead.replace('{{where}}', named('positionId') || named('unitId')),
  rows: (context) => [
    ['person.name.given', 'person.name.family'],
    'person.contacts.0.value',
    ...hireRows(context),
    ...context.own,
  ],
  more: () => [
    ['person.birthDate', 'lastDay'],
    ...hireMore,
    ['person.contacts.1.value', 'person.name.titleId'],
  ],
  prepare: (input, context) => ({
    ...hireTerms(input, context),
    person: personIn(input),
    ...(input['own'] ? { own: input['own'] } : {}),
  }),
  needs: ({ input, words }) => [
    ...(nameIn(input).given || nameIn(input).family ? [] : [words.needs?.['name'] ?? '']),
    ...(contactsIn(input).length > 0 ? [] : [words.needs?.['contact'] ?? '']),
    ...(hasPlace(input) ? [] : [words.needs?.['place'] ?? '']),
  ],
  understood: understoodPay,
  note: notedPay,
  fits: listedFor('hire'),
  reads: ({ positionId, unitId }) => ({ positions: [positionId], units: [unitId] }),
  hidden: ['name_missing', 'contact_missing', 'hires_need_position', 'field_required'],
  alike: alikeHire,
});

type Person = {
  name?: { given?: string; family?: string; titleId?: number };
  contacts?: { value?: string }[];
  birthDate?: string;
};

const personOf = (input: Record<string, unknown>): Person => (input['person'] ?? {}) as Person;
const nameIn = (input: Record<string, unknown>) => {
  const { given = '', family = '' } = personOf(input).name ?? {};
  return { given: given.trim(), family: family.trim() };
};

const contactsIn = (input: Record<string, unknown>) =>
  (personOf(input).contacts ?? []).flatMap((contact) => {
    const value = contact?.value?.trim() ?? '';
    if (value.length < 3) return [];
    return [{ kind: value.includes('@') ? 'email' : 'phone', value }];
  });

const personIn = (input: Record<string, unknown>) => {
  const { given, family } = nameIn(input);
  const { birthDate, name: { titleId } = {} } = personOf(input);
  return {
    name: { given: given || null, family: family || null, ...(titleId ? { titleId } : {}) },
    contacts: contactsIn(input),
    ...(birthDate ? { birthDate } : {}),
  };
};
