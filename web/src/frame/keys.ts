// Single keys: plain letters, never while typing, and they can be switched off.
import { useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import type { Texts } from '../texts/en';

type KeyName = keyof Texts['keys']['what'];
export type Keys = Partial<Record<KeyName, () => void>>;

const letters: Record<KeyName, string> = {
  help: '?',
  next: 'n',
  previous: 'p',
  today: 't',
  down: 'j',
  up: 'k',
  undo: 'u',
  search: '/',
};

export const keysAreOn = (): boolean => localStorage.getItem('gremium-keys') !== 'off';
export const switchKeys = (on: boolean): void => localStorage.setItem('gremium-keys', on ? 'on' : 'off');

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  target.closest('input, textarea, select, [contenteditable], [role=combobox], [role=dialog]') !== null;

/** Letters that act now on this page, with what each does; for the help. */
export const active = new Map<string, string>();

/** A letter with what it does, in the words of the page. */
export type Letter = { letter: string | undefined; what: string; act: () => void };

/** Acts on single letters while the component is there. */
export const useLetters = (all: readonly Letter[]): void => {
  const latest = useRef(all);
  useEffect(() => {
    latest.current = all;
  });
  const names = all.map(({ letter, what }) => `${letter ?? ''} ${what}`).join('\n');
  useEffect(() => {
    const own = latest.current.filter(({ letter }) => letter !== undefined);
    for (const { letter, what } of own) active.set(letter as string, what);
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target) || !keysAreOn()) return;
      const found = latest.current.find(({ letter }) => letter === event.key);
      if (!found) return;
      event.preventDefault();
      found.act();
    };
    document.addEventListener('keydown', press);
    return () => {
      for (const { letter } of own) active.delete(letter as string);
      document.removeEventListener('keydown', press);
    };
  }, [names]);
};

/** The same for what every page calls alike. */
export const useKeys = (keys: Keys): void => {
  const { t } = useTranslation();
  useLetters(
    (Object.entries(keys) as [KeyName, () => void][]).map(([name, act]) => ({
      letter: letters[name],
      what: t(`keys.what.${name}`),
      act,
    })),
  );
};
