import { Button } from 'antd';
import { useEffect, useRef } from 'react';
import { useSearchParams } from 'react-router';
import { useLetters } from '../frame/keys';
import type { Act } from './acts';

/** What can be begun from a record, as buttons; the first is the one that is meant, while nothing else is being written. */
export const ActButtons = ({ acts, isBusy }: { acts: readonly Act[]; isBusy: boolean }) => {
  const [params] = useSearchParams();
  useLetters(acts.map(({ letter, label, start }) => ({ letter, what: label, act: start })));
  useStarted(acts);
  const isFree = !isBusy && !params.has('slip') && !params.has('undo');
  return (
    <div className="acts">
      {acts.map(({ kind, label, start }, i) => (
        <Button key={kind} type={i === 0 && isFree ? 'primary' : 'default'} onClick={start}>
          {label}
        </Button>
      ))}
    </div>
  );
};

// An address may ask for an act ("do=leave"): find-or-do does, as only the record knows whether and how it can be begun.
const useStarted = (acts: readonly Act[]): void => {
  const [params] = useSearchParams();
  const asked = params.get('do');
  const started = useRef<string | null>(null);
  const act = acts.find(({ kind }) => kind === asked);
  useEffect(() => {
    if (!act || started.current === asked) return;
    started.current = asked;
    act.start();
  }, [act, asked]);
};
