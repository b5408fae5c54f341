// Single keys: plain letters, never while typing, and they can be switched off.
import { useEffect, useRef } from 'react';
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
  hire: 'h',
  transfer: 'm',
  edit: 'e',
  undo: 'u',
  search: '/',
};

export const letterOf = (name: KeyName): string => letters[name];

export const keysAreOn = (): boolean => localStorage.getItem('gremium-keys') !== 'off';
export const switchKeys = (on: boolean): void => localStorage.setItem('gremium-keys', on ? 'on' : 'off');

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  target.closest('input, textarea, select, [contenteditable], [role=combobox], [role=dialog]') !== null;

/** Keys that act now on this page, for the help. */
export const active = new Set<KeyName>();

/** Acts on single keys while the component is there. */
export const useKeys = (keys: Keys): void => {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  const names = Object.keys(keys).join();
  useEffect(() => {
    const own = names.split(',').filter(Boolean) as KeyName[];
    for (const name of own) active.add(name);
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target) || !keysAreOn()) return;
      const name = own.find((candidate) => letters[candidate] === event.key);
      const act = name && latest.current[name];
      if (!act) return;
      event.preventDefault();
      act();
    };
    document.addEventListener('keydown', press);
    return () => {
      for (const name of own) active.delete(name);
      document.removeEventListener('keydown', press);
    };
  }, [names]);
};
