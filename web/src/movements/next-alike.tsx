// "Complete, and next alike": the next slip of a kind begins with what stays the same, and says what was done before it.
import type { Kind, Moved } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { useSetParams } from '../frame/lens';
import { EntryLinks } from '../time/entry-links';
import { newKey } from '../time/kept';
import { keptMovements } from './kept-movements';
import type { Slip } from './use-slip';

type Completed = { title: string; entry: number };

// What was completed just before a slip was begun, by the key of that slip; gone with the page, as it is only a word on the way.
const completedBefore = new Map<string, Completed>();

/** Begins the next slip alike, once a movement is done; nothing where its kind has none. */
export const useNextAlike = ({ context, declared, movement }: Slip): ((done: Moved) => void) => {
  const set = useSetParams();
  return ({ entry }) => {
    const alike = context && declared.alike?.(context);
    if (entry === null || !alike) return;
    const key = newKey();
    const { kind, id } = alike.about as { kind: Kind; id: number };
    completedBefore.set(key, { title: declared.title(context), entry });
    keptMovements.open({
      key,
      kind: movement.kind,
      about: `${kind} ${id}`,
      input: alike.input,
      typed: {},
      names: [...movement.names, { kind, id, name: context.showing.nameOf(kind, id) }],
    });
    set({ slip: key });
  };
};

/** One line in the next slip: what was completed before it, with its entry and its undo. */
export const CompletedBefore = ({ slipKey }: { slipKey: string }) => {
  const { t } = useTranslation();
  const before = completedBefore.get(slipKey);
  if (!before) return null;
  return (
    <p role="status">
      <span className="moss">✓</span> {t('slip.completedBefore', { what: before.title })}{' '}
      <EntryLinks number={before.entry} />
    </p>
  );
};
