// Movements while they are prepared and once they are recorded; edits that begin and end rows.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type ReplyOf, endpoints, movementKinds } from '@gremium/contract';
import { asDemo, many, newcomer, one, sql, vacantPosition } from './harness';
import { type Moving, TODAY, startMoving } from './moving';

let { running, admin, move, refused, undo, hireInto } = {} as Moving;
beforeAll(async () => {
  ({ running, admin, move, refused, undo, hireInto } = await startMoving());
});
afterAll(() => running.close());

describe('a movement that is kept', () => {
  type Kept = ReplyOf<typeof endpoints.movement>;
  const kept = (key: string, client = admin): Promise<Kept> =>
    client.call(endpoints.movement, { params: { key } });

  test('stays a draft with the names of what it names, becomes what was recorded, and tells its undoing', async () => {
    const positionId = await vacantPosition(running, admin);
    const key = 'keptmovement1';
    const body = {
      kind: 'hire' as const,
      about: `position ${positionId}`,
      input: { positionId, firstDay: '2027-02-01', person: { name: { given: 'Åse' } } },
      typed: { 'pay.0.amount': '26,4x' },
    };
    await admin.call(endpoints.keepMovement, { params: { key }, body });
    const mine = (await admin.call(endpoints.movements, {})).movements.find((one) => one.key === key);
    expect(mine).toMatchObject({ ...body, state: 'draft', result: null });
    expect(mine?.names).toEqual(
      expect.arrayContaining([expect.objectContaining({ kind: 'position', id: positionId })]),
    );
    const fleet = await asDemo(running.address, 'fleet');
    expect((await fleet.refusal(endpoints.movement, { params: { key } })).codes).toEqual([
      'movement_unknown',
    ]);
    const done = await move(
      'hire',
      { person: newcomer('Kept'), firstDay: '2027-02-01', positionId, pay: [] },
      { key },
    );
    const recorded = await kept(key);
    expect(recorded).toMatchObject({ state: 'recorded', undoneBy: null });
    expect(recorded.result).toMatchObject({ entry: done.entry, slip: done.slip, personId: done.personId });
    const late = await admin.refusal(endpoints.keepMovement, { params: { key }, body });
    expect(late.codes).toEqual(['movement_recorded']);
    const { entry } = await undo(done.entry as number);
    expect((await kept(key)).undoneBy).toBe(entry);
    const long = { ...body, typed: { a: 'x'.repeat(2000) }, input: { text: 'y'.repeat(60_000) } };
    const refusedLong = await admin.refusal(endpoints.keepMovement, {
      params: { key: 'toolong12' },
      body: long,
    });
    expect(refusedLong.codes).toEqual(['draft_limit']);
  });

  test('carried out without being kept before, it is there all the same; the origin of its entry names it', async () => {
    const hired = await hireInto({ positionId: await vacantPosition(running, admin) }, 'Straight');
    const row = await one<{ kind: string; origin: { movement: string } }>(
      running.owner,
      sql`select m.kind, e.origin::jsonb as origin from movement m join entry e on e.number = m.entry_number where m.entry_number = ${hired.entry}`,
    );
    expect(row).toMatchObject({ kind: 'hire', origin: { movement: 'hire' } });
  });

  test('a key that was recorded is not recorded again as something else; sent again with its idempotency key it answers the same', async () => {
    const positionId = await vacantPosition(running, admin);
    const body = {
      kind: 'hire' as const,
      input: { person: newcomer('Once'), firstDay: '2027-02-01' as never, positionId },
      key: 'recordedonce1',
    };
    const send = () => admin.call(endpoints.move, { body }, { 'idempotency-key': 'recordedonce1' });
    const [first, again] = [await send(), await send()];
    expect([again.entry, again.personId]).toEqual([first.entry, first.personId]);
    const place = await vacantPosition(running, admin);
    const other = await refused(
      'hire',
      { ...body.input, person: newcomer('Twice'), positionId: place },
      { key: body.key },
    );
    expect(other.problems[0]).toMatchObject({ code: 'movement_recorded', field: 'key' });
    const found = await many(running.owner, sql`select 1 from person_name_version where family = 'Twice'`);
    expect(found).toEqual([]);
  });

  test('names nothing that its maker may no longer see', async () => {
    const fleet = await asDemo(running.address, 'fleet');
    const { people } = await admin.call(endpoints.people, {
      query: { search: 'Harbour Manager Tallinn', limit: 1 },
    });
    const personId =
      people[0]?.id ?? (await admin.call(endpoints.people, { query: { limit: 1 } })).people[0]!.id;
    const seen = await fleet.send(endpoints.personRecord, { params: { id: personId }, query: {} });
    const key = 'ofsomebody12';
    const body = { kind: 'transfer' as const, about: `person ${personId}`, input: { personId }, typed: {} };
    await fleet.call(endpoints.keepMovement, { params: { key }, body });
    const { movements } = await fleet.call(endpoints.movements, {});
    const names = movements.find((one) => one.key === key)?.names ?? [];
    expect(names.length > 0).toBe(seen.status === 200);
  });

  test('every kind refuses an empty input by its fields', async () => {
    for (const kind of movementKinds) {
      const { status, problems } = await refused(kind, {});
      expect([kind, status]).toEqual([kind, 400]);
      expect(problems.some(({ field }) => field?.startsWith('input'))).toBe(true);
    }
  });
});

describe('edits that begin and end rows', () => {
  test('a second phone and the end of an address are one entry, what now stands comes back, undone as one', async () => {
    const { personId } = await hireInto(
      { positionId: await vacantPosition(running, admin) },
      'Phones',
      '2026-11-01',
    );
    const create = (values: object) => ({
      section: 'contact' as const,
      edit: { mode: 'create' as const, from: TODAY, values: { personId, primary: false, ...values } },
    });
    const address = await admin.call(endpoints.saveEdits, {
      body: { edits: [create({ kind: 'address', use: 'private', value: 'Pikk 1, Tallinn' })] },
    });
    const [row] = address.rows;
    expect(row).toMatchObject({ section: 'contact', values: { value: 'Pikk 1, Tallinn' } });
    const saved = await admin.call(endpoints.saveEdits, {
      body: {
        edits: [
          create({ kind: 'phone', use: 'private', value: '+372 555 0199' }),
          {
            kind: 'contact',
            id: row!.thing,
            section: 'contact',
            edit: { mode: 'end', lastDay: '2026-12-31' },
            basedOn: address.entry as number,
          },
        ],
      },
    });
    expect(saved.touched).toEqual(['contact']);
    expect(saved.rows.map(({ values, until }) => [values['value'], until]).sort()).toEqual([
      ['+372 555 0199', 'infinity'],
      ['Pikk 1, Tallinn', '2027-01-01'],
    ]);
    const page = await admin.call(endpoints.personRecord, { params: { id: personId as number }, query: {} });
    const contacts = page.rows.filter(({ section }) => section === 'contact');
    for (const one of saved.rows) expect(contacts).toContainEqual(one);
    await undo(saved.entry as number);
    const after = await many<{ value: string; until: string }>(
      running.owner,
      sql`select value, valid_until::text as until from contact_version where person_id = ${personId} and superseded_by is null and kind <> 'email' order by value`,
    );
    expect(after).toEqual([{ value: 'Pikk 1, Tallinn', until: 'infinity' }]);
  });

  test('whoever may not write them is refused, and what is nobody’s is not begun so', async () => {
    const crew = await asDemo(running.address, 'crew');
    const { personId } = crew.viewer as { personId: number };
    const values = { personId, kind: 'phone', use: 'private', value: '+372 555 0100', primary: false };
    const edit = { mode: 'create' as const, from: TODAY, values };
    const denied = await crew.refusal(endpoints.saveEdits, {
      body: { edits: [{ section: 'contact', edit }] },
    });
    expect(denied.codes).toEqual(['right_missing']);
    const unit = await admin.refusal(endpoints.saveEdits, {
      body: { edits: [{ section: 'unit', edit: { ...edit, values: { name: 'X' } } }] },
    });
    expect(unit.problems[0]).toMatchObject({ code: 'value_invalid', field: 'edit.mode' });
  });
});
