// The date lens in the address: `on` (in effect on; left out: today) and `known` (as recorded by; left out: now).
import type { Day, Lens, Moment } from '@gremium/contract';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { type To, useNavigate, useSearchParams } from 'react-router';
import { useSession } from './session';

/** Search parameters that stay when the page changes. */
const STAYING = ['on', 'known', 'slip', 'undo'];

export type Looking = {
  on: Day;
  today: Day;
  isToday: boolean;
  known: Moment | null;
  /** As endpoints take it. */
  query: Lens;
};

export const useLens = (): Looking => {
  const [params] = useSearchParams();
  const { today } = useSession();
  const on = (params.get('on') ?? today) as Day;
  const known = params.get('known') as Moment | null;
  return useMemo(
    () => ({
      on,
      today,
      isToday: on === today,
      known,
      query: { on, ...(known ? { recordedBy: known } : {}) },
    }),
    [on, today, known],
  );
};

/** Changes search parameters in place; null takes one away. */
export const useSetParams = () => {
  const [, setParams] = useSearchParams();
  return useCallback(
    (changes: Record<string, string | null>, { replace = true } = {}) =>
      setParams(
        (old) => {
          for (const [name, value] of Object.entries(changes))
            if (value === null || value === '') old.delete(name);
            else old.set(name, value);
          return old;
        },
        { replace },
      ),
    [setParams],
  );
};

export const useSetDay = () => {
  const set = useSetParams();
  const { today } = useSession();
  return useCallback((day: string) => set({ on: day === today ? null : day }), [set, today]);
};

const SETTLED_AFTER = 400;

/** Moves the lens by steps: keys pressed quickly go on from the day last asked for, not from the one still shown. */
export const useStepDay = () => {
  const { on } = useLens();
  const setDay = useSetDay();
  const asked = useRef({ day: on, at: 0 });
  useEffect(() => {
    if (performance.now() - asked.current.at > SETTLED_AFTER) asked.current = { day: on, at: 0 };
  }, [on]);
  return useCallback(
    (step: (from: Day) => Day | null) => {
      const day = step(asked.current.day);
      if (!day) return;
      asked.current = { day, at: performance.now() };
      setDay(day);
    },
    [setDay],
  );
};

/** An address inside the application that keeps the lens and what is being written. */
export const useTo = () => {
  const [params] = useSearchParams();
  return useCallback(
    (pathname: string, changes: Record<string, string | null> = {}): To => {
      const next = new URLSearchParams();
      for (const name of STAYING) {
        const value = params.get(name);
        if (value) next.set(name, value);
      }
      for (const [name, value] of Object.entries(changes))
        if (value === null) next.delete(name);
        else next.set(name, value);
      return { pathname, search: next.toString() };
    },
    [params],
  );
};

export const useGo = () => {
  const to = useTo();
  const navigate = useNavigate();
  return useCallback(
    (pathname: string, changes?: Record<string, string | null>) => void navigate(to(pathname, changes)),
    [to, navigate],
  );
};
