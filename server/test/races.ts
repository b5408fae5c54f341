// Eight at the same moment for the last place of a position: exactly one may succeed, the others are told who took it.
import { type Day, type HireInput, endpoints } from '@gremium/contract';
import { type Client, Refused, newcomer } from './harness';

export type RaceResult = { won: number; taken: number; other: string[] };

export const raceFor = async (
  client: Client,
  positionId: number,
  n: number,
  contenders = 8,
): Promise<RaceResult> => {
  const results = await Promise.allSettled(
    Array.from({ length: contenders }, (_, i) => {
      const input = { person: newcomer(`Racer${n}x${i}`), positionId, firstDay: '2027-01-01' } as HireInput;
      return client.call(endpoints.move, { body: { kind: 'hire', input } });
    }),
  );
  const result: RaceResult = { won: 0, taken: 0, other: [] };
  for (const outcome of results) {
    if (outcome.status === 'fulfilled') result.won += 1;
    else if (isTold(outcome.reason)) result.taken += 1;
    else result.other.push(String(outcome.reason));
  }
  return result;
};

const isTold = (reason: unknown): boolean => {
  if (!(reason instanceof Refused)) return false;
  const taken = reason.problems.find(({ code }) => code === 'place_taken');
  const holders = taken?.params['holders'];
  return Array.isArray(holders) && holders.length === 1 && (holders[0]?.label ?? '').includes('Racer');
};

/** A new position for one holder (or more), like another one. */
export const makeLike = async (client: Client, like: number, code: string, places = 1): Promise<number> => {
  const { sections } = await client.call(endpoints.record, { params: { kind: 'position', id: like } });
  const values = sections.find(({ name }) => name === 'position')!.rows[0]!.values;
  const limits = { places, fte: places * 100, handoverDays: 0 };
  const body = {
    from: '2026-12-01' as Day,
    sections: { position: { ...values, code }, position_limits: limits },
  };
  return (await client.call(endpoints.createRecord, { params: { kind: 'position' }, body })).id;
};

const codesOf = (reason: unknown): string =>
  reason instanceof Refused ? reason.codes.join() : String(reason);

const tally = (
  outcomes: readonly PromiseSettledResult<unknown>[],
  told: (codes: string) => boolean,
): RaceResult => {
  const result: RaceResult = { won: 0, taken: 0, other: [] };
  for (const outcome of outcomes) {
    if (outcome.status === 'fulfilled') result.won += 1;
    else if (told(codesOf(outcome.reason))) result.taken += 1;
    else result.other.push(codesOf(outcome.reason));
  }
  return result;
};

/** Several hires of the same email into places of their own: nobody knew of another when they were decided; one may go through without a word. */
export const raceForEmail = async (client: Client, positions: readonly number[], n: number) =>
  tally(
    await Promise.allSettled(
      positions.map((positionId, i) => {
        const person = newcomer(`Twin${n}x${i}`);
        person.contacts[0]!.value = `twin${n}@race.example`;
        const input = { person, positionId, firstDay: '2027-01-01' } as HireInput;
        return client.call(endpoints.move, { body: { kind: 'hire', input } });
      }),
    ),
    (codes) => codes.includes('twin_email') && codes.includes('word_missing'),
  );

/** Several units of one code at once: one is made. */
export const raceForCode = async (
  client: Client,
  parentId: number,
  kindId: number,
  n: number,
  contenders = 8,
) =>
  tally(
    await Promise.allSettled(
      Array.from({ length: contenders }, () =>
        client.call(endpoints.createRecord, {
          params: { kind: 'unit' },
          body: {
            from: '2026-12-01' as Day,
            sections: { unit: { code: `RACE-${n}`, name: `Race ${n}`, kindId, parentId } },
          },
        }),
      ),
    ),
    (codes) => codes.includes('code_taken'),
  );

/** A limit is lowered while somebody is hired into the place that goes: both cannot be. */
export const raceForLimit = async (client: Client, positionId: number, n: number): Promise<RaceResult> => {
  const { sections } = await client.call(endpoints.record, { params: { kind: 'position', id: positionId } });
  const { lastEntry } = sections.find(({ name }) => name === 'position_limits')!;
  const hire = (i: number) => {
    const input = { person: newcomer(`Limit${n}x${i}`), positionId, firstDay: '2027-01-01' } as HireInput;
    return client.call(endpoints.move, { body: { kind: 'hire', input } });
  };
  await hire(0);
  const lower = client.call(endpoints.editRecord, {
    params: { kind: 'position', id: positionId, section: 'position_limits' },
    body: {
      basedOn: lastEntry,
      edit: { mode: 'set', from: '2026-12-01' as Day, values: { places: 1, fte: 100 } },
    },
  });
  return tally(
    await Promise.allSettled([hire(1), lower]),
    (codes) =>
      codes.includes('place_taken') || codes.includes('fte_taken') || codes.includes('limit_lowered'),
  );
};
