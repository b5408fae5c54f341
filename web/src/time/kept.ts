// What somebody is writing lives on the server, so that neither a closed browser nor another machine loses it. What is typed
// stands here at once (a store of its own: inputs must follow without delay), is kept a moment later, and sent when the page
// goes away.
import type { Moment } from '@gremium/contract';
import { useEffect, useSyncExternalStore } from 'react';
import { Refused } from '../api';
import { later } from '../under-way';

const KEEP_AFTER = 300;
const TRY_AGAIN_AFTER = 3000;

/** Something that is being written; `keptAt` is null while it waits to be kept. `isOpened`: nothing is written yet. */
export type Local<T> = T & { keptAt: Moment | null; refused?: boolean; isOpened?: true };

type Way<T> = {
  load: () => Promise<Local<T>[]>;
  keep: (one: T, options: { keepalive: boolean }) => Promise<{ keptAt: Moment }>;
  discard: (key: string) => Promise<unknown>;
};

const stores: { flush: () => void }[] = [];

/** A store of things that are being written, each by its key. */
export class KeptStore<T extends { key: string }> {
  private all: Local<T>[] | undefined;
  private isLoading = false;
  private readonly listeners = new Set<() => void>();
  // what is on its way: it is discarded only after it, or it would come back
  private readonly sending = new Map<string, Promise<void>>();
  private readonly waiting = new Map<string, () => void>();

  constructor(private readonly way: Way<T>) {
    stores.push(this);
  }

  /** Writes something down: it shows at once and is kept on the server a moment later. */
  readonly keep = (one: T): void => {
    this.waiting.get(one.key)?.();
    const { isOpened: _, ...written } = one as Local<T>;
    this.change([
      { ...(written as unknown as T), keptAt: null },
      ...(this.all ?? []).filter(({ key }) => key !== one.key),
    ]);
    this.later(one.key, KEEP_AFTER);
  };

  /** Shows something that is opened and not written yet: it is kept with the first letter, or where somebody says so. */
  readonly open = (one: T): void =>
    this.change([{ ...one, keptAt: null, isOpened: true }, ...(this.all ?? [])]);

  readonly discard = async (key: string): Promise<void> => {
    const isOpened = this.all?.find((one) => one.key === key)?.isOpened;
    if (!(await this.forget(key)) || isOpened) return;
    await this.way.discard(key);
  };

  /** Takes it away here: the server knows what became of it. Answers whether it was there. */
  readonly forget = async (key: string): Promise<boolean> => {
    this.waiting.get(key)?.();
    this.waiting.delete(key);
    if (!this.all?.some((one) => one.key === key)) return false;
    this.change(this.all.filter((one) => one.key !== key));
    await this.sending.get(key);
    this.sending.delete(key);
    return true;
  };

  flush(): void {
    for (const key of [...this.waiting.keys()]) void this.send(key, true);
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  };

  private change(next: Local<T>[]): void {
    this.all = next;
    for (const listener of this.listeners) listener();
  }

  readonly present = (): Local<T>[] | undefined => this.all;

  /** Asks the server again: somebody else's became one's own, or what waited is written at again. */
  readonly reload = (): Promise<void> => this.load(true);

  async load(isAgain = false): Promise<void> {
    if ((this.all && !isAgain) || this.isLoading) return;
    this.isLoading = true;
    try {
      const kept = await this.way.load();
      // what was written meanwhile stands before what was kept
      const own: Local<T>[] = this.all ?? [];
      this.change([...own, ...kept.filter(({ key }) => !own.some((one) => one.key === key))]);
    } finally {
      this.isLoading = false;
    }
  }

  private later(key: string, after: number): void {
    this.waiting.set(
      key,
      later(after, () => void this.send(key)),
    );
  }

  private mark(key: string, changes: { keptAt?: Moment; refused: boolean }): void {
    if (this.all) this.change(this.all.map((one) => (one.key === key ? { ...one, ...changes } : one)));
  }

  private send(key: string, keepalive = false): Promise<void> {
    this.waiting.get(key)?.();
    this.waiting.delete(key);
    const sent = keepalive
      ? this.deliver(key, true) // the page is going: nothing may wait
      : (this.sending.get(key) ?? Promise.resolve()).then(() => this.deliver(key, false));
    this.sending.set(key, sent);
    return sent;
  }

  private async deliver(key: string, keepalive: boolean): Promise<void> {
    const one = this.all?.find((candidate) => candidate.key === key);
    if (!one) return;
    try {
      const { keptAt } = await this.way.keep(one, { keepalive });
      this.mark(key, { keptAt, refused: false });
    } catch (error) {
      this.mark(key, { refused: true });
      if (!(error instanceof Refused)) this.later(key, TRY_AGAIN_AFTER);
    }
  }
}

/** Everything that is being written, latest first; undefined while it loads. */
export const useAllKept = <T extends { key: string }>(store: KeptStore<T>): Local<T>[] | undefined => {
  useEffect(() => void store.load(), [store]);
  return useSyncExternalStore(store.subscribe, store.present);
};

/** One of them as it now stands; undefined while they load, null if there is none. */
export const useKept = <T extends { key: string }>(
  store: KeptStore<T>,
  key: string | null,
): Local<T> | null | undefined => {
  const all = useAllKept(store);
  return all && (all.find((one) => one.key === key) ?? null);
};

const flushAll = (): void => stores.forEach((store) => store.flush());

/** Sends what waits when the page is left or hidden; returns how to stop that. */
export const keepOnLeaving = (): (() => void) => {
  const hidden = () => {
    if (document.visibilityState === 'hidden') flushAll();
  };
  addEventListener('pagehide', flushAll);
  document.addEventListener('visibilitychange', hidden);
  return () => {
    removeEventListener('pagehide', flushAll);
    document.removeEventListener('visibilitychange', hidden);
  };
};

/** A key for something new, made here; it stands in the address. */
export const newKey = (): string =>
  [...crypto.getRandomValues(new Uint8Array(12))].map((byte) => byte.toString(16).padStart(2, '0')).join('');
