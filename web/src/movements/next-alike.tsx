// "Complete, and next alike": the next slip of a kind begins with what stays the same, and says what was done before it.
import type { Kind, Moved } from '@gremium/contract';
import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { useSetParams } from '../frame/lens';
import { useMay } from '../frame/session';
import { newKey } from '../time/kept';
import { keptMovements } from './kept-movements';
import type { Slip } from './use-slip';

type Completed = { title: string; entry: number };

// What was completed just before a slip was begun, by the key of that slip; gone with the page, as it is only a word on the way.
const completedBefore = new Map<string, Completed>();

/** Begins the next slip alike once a movement is done; `undefined` while it is not, or not wanted. */
export const useNextAlike = (slip: Slip, done: Moved | undefined): void => {
  const set = useSetParams();
  const { context, declared, movement } = slip;
  const alike = context && declared.alike?.(context);
  const entry = done?.entry ?? null;
  useEffect(() => {
    if (entry === null || !alike || !context) return;
    const key = newKey();
    completedBefore.set(key, { title: declared.title(context), entry });
    keptMovements.keep({
      key,
      kind: movement.kind,
      about: `${alike.about.kind} ${alike.about.id}`,
      input: alike.input,
      typed: {},
      names: [
        ...movement.names,
        {
          kind: alike.about.kind as Kind,
          id: alike.about.id,
          name: context.showing.nameOf(alike.about.kind as Kind, alike.about.id),
        },
      ],
    });
    set({ slip: key });
    // once for each that is done: the context is another object at every render
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [entry]);
};

/** One line in the next slip: what was completed before it, with its undo. */
export const CompletedBefore = ({ slipKey }: { slipKey: string }) => {
  const { t } = useTranslation();
  const set = useSetParams();
  const may = useMay();
  const before = completedBefore.get(slipKey);
  if (!before) return null;
  return (
    <p role="status">
      <span className="moss">✓</span>{' '}
      {t('slip.completedBefore', { what: before.title, number: before.entry })}
      {may.act('undo') && (
        <>
          {' · '}
          <button type="button" className="textact" onClick={() => set({ undo: String(before.entry) })}>
            {t('undo.word')}
          </button>
        </>
      )}
    </p>
  );
};
