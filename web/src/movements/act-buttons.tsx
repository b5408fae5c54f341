import { Button, Dropdown } from 'antd';
import { useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { useLetters } from '../frame/keys';
import type { Act } from './acts';

// So many stand in one row, or nearly.
const MOST_BUTTONS = 5;

/** What can be begun from a record, as buttons; the first is the one that is meant, while nothing else is being written. Of many, what is wanted less often stands behind one more. */
export const ActButtons = ({ acts, isBusy }: { acts: readonly Act[]; isBusy: boolean }) => {
  const [params] = useSearchParams();
  useLetters(acts.map(({ letter, label, start }) => ({ letter, what: label, act: start })));
  useStarted(acts);
  const isFree = !isBusy && !params.has('slip') && !params.has('undo');
  const { t } = useTranslation();
  const isMuch = acts.length > MOST_BUTTONS;
  const aside = isMuch ? acts.filter(({ isAside }) => isAside) : [];
  const shown = acts.filter((act) => !aside.includes(act));
  const items = aside.map(({ kind, label, start }) => ({ key: kind, label, onClick: start }));
  return (
    <div className="acts">
      {shown.map(({ kind, label, start }, i) => (
        <Button key={kind} type={i === 0 && isFree ? 'primary' : 'default'} onClick={start}>
          {label}
        </Button>
      ))}
      {items.length > 0 && (
        <Dropdown menu={{ items }} trigger={['click']}>
          <Button>{t('moreActs')}</Button>
        </Dropdown>
      )}
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
