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
      return client.call(endpoints.hire, { body: { input } });
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

/** A new position for one holder, like another one. */
export const makeLike = async (client: Client, like: number, code: string): Promise<number> => {
  const { sections } = await client.call(endpoints.record, { params: { kind: 'position', id: like } });
  const values = sections.find(({ name }) => name === 'position')!.rows[0]!.values;
  const limits = { places: 1, fte: 100, handoverDays: 0 };
  const body = {
    from: '2026-12-01' as Day,
    sections: { position: { ...values, code }, position_limits: limits },
  };
  return (await client.call(endpoints.createRecord, { params: { kind: 'position' }, body })).id;
};
