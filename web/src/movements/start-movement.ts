import type { Draft } from '@gremium/contract';
import { useCallback } from 'react';
import { useLens, useSetParams } from '../frame/lens';
import { keepDraft, newKey } from './drafts';
import type { HireContent } from './hire-slip';
import type { TransferContent } from './transfer-slip';

/** Opens a slip; it proposes the day of the lens and keeps its own when the lens moves on. */
export const useStartMovement = () => {
  const { on } = useLens();
  const set = useSetParams();
  const open = useCallback(
    (draft: Omit<Draft, 'key'>, elsewhere?: (params: Record<string, string | null>) => void) => {
      const key = newKey();
      keepDraft({ ...draft, key });
      (elsewhere ?? set)({ slip: key, undo: null });
    },
    [set],
  );
  return {
    hire: (positionId: number, elsewhere?: (params: Record<string, string | null>) => void) =>
      open(
        {
          kind: 'hire',
          about: `position ${positionId}`,
          content: { positionId, firstDay: on } satisfies HireContent,
        },
        elsewhere,
      ),
    transfer: (
      content: Omit<TransferContent, 'firstDay'>,
      elsewhere?: (params: Record<string, string | null>) => void,
    ) =>
      open(
        {
          kind: 'transfer',
          about: content.personId ? `person ${content.personId}` : `position ${content.positionId}`,
          content: { ...content, firstDay: on },
        },
        elsewhere,
      ),
  };
};
