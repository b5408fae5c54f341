import {
  type HireInput,
  type Problem,
  type ReplyOf,
  type TransferInput,
  movementEndpoints,
} from '@gremium/contract';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Refused, call } from '../api';
import { discardDraft } from './drafts';

export type Moved = ReplyOf<typeof movementEndpoints.hire>;
export type Asking = { kind: 'hire'; input: HireInput } | { kind: 'transfer'; input: TransferInput };
type Words = Partial<Record<Problem['code'], string>>;

const SETTLE = 200;

const useSettled = <T>(value: T): T => {
  const [settled, setSettled] = useState(value);
  const text = JSON.stringify(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(JSON.parse(text) as T), SETTLE);
    return () => clearTimeout(timer);
  }, [text]);
  return settled;
};

type Sending = { preview: boolean; words: Words; seen?: number | undefined };

const send = (asking: Asking, { seen, ...sending }: Sending, key?: string) =>
  asking.kind === 'hire'
    ? call(
        movementEndpoints.hire,
        { body: { input: asking.input, ...sending, ...(seen === undefined ? {} : { seen }) } },
        key ? { idempotencyKey: key } : {},
      )
    : call(
        movementEndpoints.transfer,
        { body: { input: asking.input, ...sending, ...(seen === undefined ? {} : { seen }) } },
        key ? { idempotencyKey: key } : {},
      );

/** Previews a movement as it is written and carries it out once. `asking` is null while too little is known for a preview. */
export const useMovement = (key: string, asking: Asking | null, words: Words) => {
  const queries = useQueryClient();
  const settled = useSettled(asking);
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
    mutationFn: (asked: Asking) => send(asked, { preview: false, words, seen: preview.data?.asOf }, key),
    // what somebody else changed meanwhile is looked at again
    onError: () => void preview.refetch(),
    onSuccess: async () => {
      await discardDraft(key);
      await queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'preview' });
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
    complete: () => {
      if (asking && !complete.isPending) complete.mutate(asking);
    },
  };
};

const problemsOf = (error: Error | null): Problem[] => (error instanceof Refused ? error.problems : []);

const dedupe = (problems: readonly Problem[]): Problem[] => {
  const seen = new Map(problems.map((problem) => [`${problem.code} ${problem.field ?? ''}`, problem]));
  return [...seen.values()];
};
