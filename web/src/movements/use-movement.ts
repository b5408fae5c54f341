import {
  type Moved,
  type MovementKind,
  type Problem,
  type Words,
  movementEndpoints,
} from '@gremium/contract';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Refused, call } from '../api';
import { refreshTouched } from '../time/touched';
import { useSettled } from '../ui/use-settled';
import { keptMovements } from './kept-movements';

/** A movement as it can be asked for: what is written is enough to be looked at. */
export type Asking = { kind: MovementKind; input: Record<string, unknown> };

const SETTLE = 200;

type Sending = {
  preview: boolean;
  words: Words;
  seen?: number | undefined;
  conditions?: readonly string[];
};

const send = (asking: Asking, { seen, ...sending }: Sending, key?: string) =>
  call(
    movementEndpoints.move,
    {
      body: {
        ...asking,
        ...sending,
        ...(seen === undefined ? {} : { seen }),
        ...(key ? { key } : {}),
      } as never,
    },
    key ? { idempotencyKey: key } : {},
  );

/** Previews a movement as it is written and carries it out once. `asking` is null while too little is known for a preview. */
export const useMovement = (
  key: string,
  asking: Asking | null,
  { words, conditions }: { words: Words; conditions: readonly string[] },
) => {
  const queries = useQueryClient();
  const settled = useSettled(asking, SETTLE);
  const preview = useQuery({
    queryKey: ['preview', settled],
    enabled: settled !== null,
    queryFn: () => send(settled as Asking, { preview: true, words: {} }),
    placeholderData: keepPreviousData,
    staleTime: 0,
    gcTime: 0,
    retry: false,
  });
  const complete = useMutation({
    mutationFn: (asked: Asking) =>
      send(asked, { preview: false, words, seen: preview.data?.asOf, conditions }, key),
    // what somebody else changed meanwhile is looked at again
    onError: () => void preview.refetch(),
    onSuccess: async ({ touched }) => {
      await keptMovements.forget(key);
      await refreshTouched(queries, touched);
      await queries.invalidateQueries({ queryKey: ['movement-sheets'] });
    },
  });
  // what was refused stops nothing once something else is written
  const isOfThis = JSON.stringify(complete.variables) === JSON.stringify(asking);
  const refusal = isOfThis ? complete.error : null;
  const seen = preview.error || settled === null ? undefined : preview.data;
  const problems = dedupe([
    ...problemsOf(refusal),
    ...(seen?.problems ?? (refusal ? [] : problemsOf(preview.error))),
  ]);
  return {
    preview: seen,
    problems,
    done: complete.data,
    isPending: complete.isPending,
    /** `then`: what is done with what came of it, beside showing it. */
    complete: (then?: (done: Moved) => void) => {
      if (asking && !complete.isPending) complete.mutate(asking, then ? { onSuccess: then } : {});
    },
  };
};

const problemsOf = (error: Error | null): Problem[] => (error instanceof Refused ? error.problems : []);

const dedupe = (problems: readonly Problem[]): Problem[] => {
  const seen = new Map(problems.map((problem) => [`${problem.code} ${problem.field ?? ''}`, problem]));
  return [...seen.values()];
};
