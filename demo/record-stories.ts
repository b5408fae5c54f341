// What records of people hold beside their work: a little of everything for some, qualifications for all who need them, some of them
// missing, some that run out.
import type { Day, NewValues, Row } from '@gremium/contract';
import { BEGINNING, type Draft, addDays, addMonths, honoursDue, isOn, serviceHonours } from '@gremium/core';
import { papers } from './papers';
import type { Simulation, Worker } from './simulate';

/** What was entered when personnel files were moved into the register. */
export const tellOfRecords = (simulation: Simulation): void => {
  const { anchor } = simulation.options;
  const workers = simulation.workers.filter(({ leaving, since }) => !leaving && since < addDays(anchor, -40));
  simulation.act('edit', 'Qualifications from the files', (draft) => {
    for (const [i, worker] of workers.entries()) qualify(simulation, draft, worker, i);
  });
  simulation.act('edit', 'Personnel files moved in', (draft) => {
    for (const [i, worker] of workers.slice(0, 40).entries()) fileOf(simulation, draft, worker, i);
  });
  simulation.act('edit', 'Honours for service', (draft) => honourService(simulation, draft, workers));
  simulation.act('edit', 'Documents and honours from the cabinet', (draft) => {
    for (const [i, worker] of workers.slice(0, 12).entries()) papersOf(simulation, draft, worker, i);
  });
};

/** What some people declared of themselves. */
export const declareFacts = (simulation: Simulation): void => {
  const { lists, workers, history } = simulation;
  simulation.act('edit', 'What people declared of themselves', (draft) => {
    for (const [i, { personId, leaving }] of workers.entries()) {
      const code = i === 10 ? 'EQUATED' : i % 23 === 0 ? 'DISABLED' : i % 31 === 0 ? 'VETERAN' : null;
      if (code && !leaving)
        draft.create('declared_fact', history.day, {
          personId,
          factId: lists[code] as number,
          country: null,
        });
    }
  });
};

// Whoever had the years half a year ago was honoured then; a few were forgotten.
const honourService = (simulation: Simulation, draft: Draft, workers: readonly Worker[]): void => {
  const { register } = simulation.history;
  const by = addMonths(simulation.options.anchor, -6);
  const kinds = serviceHonours(register, by);
  for (const [i, { personId }] of workers.entries()) {
    if (i % 40 === 7) continue;
    for (const { honourId, due } of honoursDue(register, personId, by, kinds))
      draft.create('award', due, { personId, honourId, awardedOn: due, issuer: 'Managing director' });
  }
};

const papersOf = (simulation: Simulation, draft: Draft, { personId }: Worker, i: number): void => {
  const { lists, options } = simulation;
  const from = addMonths(options.anchor, -9);
  const id = (code: string): number => lists[code] as number;
  draft.create('document', from, {
    ...{ personId, title: 'Contract of employment', kindId: id('DOCUMENT'), folder: 'Contracts' },
    ...{ file: papers.contract.file, documentedOn: from },
  });
  if (i % 4 === 0)
    draft.create('confidential_document', from, {
      ...{ personId, title: 'Yearly talk', folder: 'Talks', file: papers.talk.file, documentedOn: from },
    });
  if (i !== 3) return;
  for (const ordinal of [1, 2])
    draft.create('award', addMonths(from, ordinal - 1), {
      ...{ personId, honourId: id('RESCUE'), awardedOn: addMonths(from, ordinal - 1), ordinal },
      ...{ issuer: 'President', country: 'FI', orderKind: 'state', orderNumber: `${6 + ordinal}/2026` },
      ...{ orderedOn: from, evidence: papers.order.file },
    });
};

const STREETS = ['Katajanokanlaituri', 'Sadama tänav', 'Hamngatan', 'Havnegade', 'Kaigata', 'Hafenstraße'];

const qualify = (simulation: Simulation, draft: Draft, { personId, slot }: Worker, i: number): void => {
  const { register } = simulation.history;
  const { anchor } = simulation.options;
  const jobId = slot && register.at('position', slot.position, anchor)?.jobId;
  if (!jobId) return;
  const asked = register
    .referrers('job_requirement', 'jobId', jobId)
    .filter((row) => isOn(row, anchor)) as Row<'job_requirement'>[];
  for (const [j, { values }] of asked.entries()) {
    // every eleventh lacks one of them
    if ((i + j) % 11 === 0) continue;
    const issuedOn = addDays(addMonths(anchor, -40), (i * 13 + j * 7) % 900);
    const [certificateId] = values.certificateIds ?? [];
    const [skillId] = values.skillIds ?? [];
    const [educationId] = values.educationIds ?? [];
    if (certificateId) {
      // most hold for five years; a few ran out, or will within weeks
      const expiresOn = (i + j) % 17 === 3 ? addDays(anchor, ((i * 5) % 90) - 30) : addMonths(issuedOn, 60);
      const number = `C-${10_000 + i * 7 + j}`;
      const held = { personId, certificateId, number, issuer: 'Maritime office', issuedOn, expiresOn };
      draft.create('held_certificate', issuedOn, held);
    }
    if (skillId)
      draft.create('held_skill', issuedOn, { personId, skillId, level: values.level, assessedOn: issuedOn });
    if (educationId)
      draft.create('held_education', BEGINNING, {
        personId,
        educationId,
        institution: null,
        studied: null,
        completedOn: null,
      });
  }
};

const fileOf = (simulation: Simulation, draft: Draft, worker: Worker, i: number): void => {
  const { personId, employmentId } = worker;
  const country = worker.country.code;
  const { lists, options } = simulation;
  const { anchor } = options;
  const id = (code: string): number => lists[code] as number;
  const since = addMonths(anchor, -18);
  const from: Day = worker.since > since ? worker.since : since;
  const street = `${STREETS[i % STREETS.length]} ${1 + ((i * 7) % 60)}`;
  draft.create('postal_address', from, {
    ...{ personId, use: 'home', street, postcode: String(10_000 + i * 37), city: 'Harbour town', country },
  });
  draft.create('emergency_contact', from, {
    ...{
      personId,
      contactName: `Kin of ${i + 1}`,
      relationId: id('PARTNER'),
      phone: `+358 40 777${100 + i}`,
      order: 1,
    },
  });
  const language: NewValues<'spoken_language'> = { personId, language: 'en', spoken: i % 3 ? 'b2' : 'c1' };
  draft.create('spoken_language', BEGINNING, language);
  const completedOn = addDays(from, (i * 11) % 200);
  draft.create('attended_training', completedOn, {
    personId,
    trainingId: id('FIRSTAID'),
    provider: 'Red Cross',
    completedOn,
    outcome: 'passed',
  });
  if (i % 2)
    draft.create('asset', from, {
      personId,
      kindId: id('HANDSET'),
      label: `Radio ${i}`,
      serial: `R-${4000 + i}`,
      givenOn: from,
    });
  if (i % 3 === 0)
    draft.create('dependant', from, {
      personId,
      dependantName: `Child of ${i + 1}`,
      relationId: id('CHILD'),
      birthDate: addMonths(anchor, -60 - i),
    });
  const number = `SB${200_000 + i * 31}`;
  const expiresOn = addDays(anchor, 40 + i * 9);
  draft.create('identifier', from, {
    personId,
    kindId: id('SEABOOK'),
    number,
    issuer: 'Port state',
    country,
    expiresOn,
  });
  draft.create('bank_account', from, {
    personId,
    purpose: 'pay',
    account: `FI00${String(3_000_000_000 + i * 97)}`,
    bank: 'Sea Savings',
  });
  if (i % 4 === 0)
    draft.create('medical_fitness', from, {
      personId,
      kindId: id('SEAMED'),
      fitness: 'fit',
      examinedOn: from,
      expiresOn: addMonths(from, 24),
    });
  if (i === 5)
    draft.create('disciplinary_measure', from, {
      personId,
      kindId: id('WARNING'),
      imposedOn: from,
      ground: 'Late for the watch three times',
      lapsesOn: addMonths(from, 24),
    });
  if (i === 6) draft.create('protected_status', from, { personId, kindId: id('ELECTED'), country });
  if (i < 4)
    draft.create('note', from, {
      personId,
      about: 'Wishes',
      notes: 'Would like to sail with the family at midsummer.',
    });
  if (i < 3)
    draft.create('profile_link', from, {
      personId,
      about: 'Model ships',
      address: `https://ships.example/${i}`,
    });
  if (i % 5 === 0)
    draft.create('award', from, {
      personId,
      honourId: id('THANKS'),
      awardedOn: from,
      issuer: 'Harbour master',
    });
  if (i % 5 === 1) draft.create('benefit', from, { employmentId, kindId: id('CABIN') });
  if (i % 5 === 2)
    draft.create('one_off_payment', from, {
      employmentId,
      kindId: id('BASE'),
      amount: String(250 + i),
      currency: 'EUR',
      paidOn: from,
    });
  draft.create('payroll_number', from, { employmentId, number: `A${700 + i}` });
  if (i % 7 !== 0) return;
  const [one, other] = [...simulation.history.register.allOn('cost_centre', anchor)];
  if (!one || !other) return;
  draft.create('cost_split', from, { employmentId, costCentreId: one.thing, part: 70 });
  draft.create('cost_split', from, { employmentId, costCentreId: other.thing, part: 30 });
};
