// Drafts live on the server, so that neither a closed browser nor another machine loses them. What is typed stands here
// at once (a store of its own: inputs must follow without delay), is kept a moment later, and sent when the page goes away.
import { type Draft, type KeptDraft, draftEndpoints } from '@gremium/contract';
import { useEffect, useSyncExternalStore } from 'react';
import { Refused, call } from '../api';

const KEEP_AFTER = 300;
const TRY_AGAIN_AFTER = 3000;

/** A draft as it stands here; `keptAt` is null while it waits to be kept. */
export type LocalDraft = Omit<KeptDraft, 'keptAt'> & {
  keptAt: KeptDraft['keptAt'] | null;
  refused?: boolean;
};

let drafts: LocalDraft[] | undefined;
let loading = false;
const listeners = new Set<() => void>();
// what is on its way: a draft is discarded only after it, or it would come back
const sending = new Map<string, Promise<void>>();
const waiting = new Map<string, ReturnType<typeof setTimeout>>();

const change = (next: LocalDraft[] | undefined): void => {
  drafts = next;
  for (const listener of listeners) listener();
};

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
};

const load = async (): Promise<void> => {
  if (drafts || loading) return;
  loading = true;
  try {
    const kept = (await call(draftEndpoints.drafts, {})).drafts;
    const own: LocalDraft[] = drafts ?? [];
    change([...own, ...kept.filter(({ key }) => !own.some((draft) => draft.key === key))]);
  } finally {
    loading = false;
  }
};

const mark = (key: string, changes: Partial<LocalDraft>): void =>
  change(drafts?.map((draft) => (draft.key === key ? { ...draft, ...changes } : draft)));

const send = (key: string, keepalive = false): Promise<void> => {
  clearTimeout(waiting.get(key));
  waiting.delete(key);
  const sent = keepalive
    ? deliver(key, true) // the page is going: nothing may wait
    : (sending.get(key) ?? Promise.resolve()).then(() => deliver(key, false));
  sending.set(key, sent);
  return sent;
};

const deliver = async (key: string, keepalive: boolean): Promise<void> => {
  const draft = drafts?.find((one) => one.key === key);
  if (!draft) return;
  const { kind, about, content } = draft;
  try {
    const { keptAt } = await call(
      draftEndpoints.keepDraft,
      { params: { key }, body: { kind, about, content } },
      { keepalive },
    );
    mark(key, { keptAt, refused: false });
  } catch (error) {
    mark(key, { refused: true });
    if (!(error instanceof Refused))
      waiting.set(
        key,
        setTimeout(() => void send(key), TRY_AGAIN_AFTER),
      );
  }
};

/** Writes a draft down: it shows at once and is kept on the server a moment later. */
export const keepDraft = ({ key, kind, about, content }: Draft): void => {
  clearTimeout(waiting.get(key));
  change([{ key, kind, about, content, keptAt: null }, ...(drafts ?? []).filter((one) => one.key !== key)]);
  waiting.set(
    key,
    setTimeout(() => void send(key), KEEP_AFTER),
  );
};

export const discardDraft = async (key: string): Promise<void> => {
  clearTimeout(waiting.get(key));
  waiting.delete(key);
  if (!drafts?.some((draft) => draft.key === key)) return;
  change(drafts.filter((draft) => draft.key !== key));
  await sending.get(key);
  sending.delete(key);
  await call(draftEndpoints.discardDraft, { params: { key } });
};

const flush = (): void => {
  for (const key of [...waiting.keys()]) void send(key, true);
};

/** Sends what waits when the page is left or hidden; returns how to stop that. */
export const keepOnLeaving = (): (() => void) => {
  const hidden = () => {
    if (document.visibilityState === 'hidden') flush();
  };
  addEventListener('pagehide', flush);
  document.addEventListener('visibilitychange', hidden);
  return () => {
    removeEventListener('pagehide', flush);
    document.removeEventListener('visibilitychange', hidden);
  };
};

/** Own drafts, latest first; undefined while they load. */
export const useDrafts = (): LocalDraft[] | undefined => {
  useEffect(() => void load(), []);
  return useSyncExternalStore(subscribe, () => drafts);
};

/** One draft as it now stands; undefined while drafts load, null if there is none. */
export const useDraft = (key: string | null): LocalDraft | null | undefined => {
  const all = useDrafts();
  return all && (all.find((draft) => draft.key === key) ?? null);
};

export const newKey = (): string =>
  [...crypto.getRandomValues(new Uint8Array(12))].map((byte) => byte.toString(16).padStart(2, '0')).join('');
