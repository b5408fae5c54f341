import { Suspense, useCallback, useEffect, useState } from 'react';
import { type Day, accessEndpoints } from '@gremium/contract';
import { daysBetween, isBefore } from '@gremium/core';
import { useQueryClient } from '@tanstack/react-query';
import { Button, Popover } from 'antd';
import { useTranslation } from 'react-i18next';
import { call } from '../api';
import { setLanguage } from '../texts/i18n';
import { useFormat } from '../texts/format';
import type { Mode } from '../tokens';
import { Logo } from '../ui/logo';
import { Monogram } from '../ui/monogram';
import { EarlyKeys } from './early-keys';
import { useKeys } from './keys';
import { useLens, useSetDay, useSetParams, useStepDay } from './lens';
import { useMode, useSession } from './session';
import { lazily } from '../ui/lazily';

const LensPanel = lazily(async () => (await import('./lens-panel')).LensPanel);
const FindOrDo = lazily(async () => (await import('./find-or-do')).FindOrDo);
const KeyHelp = lazily(async () => (await import('./key-help')).KeyHelp);

export type Tick = { day: Day; count: number };

/** The nearest day before or after on which something happens. */
export const neighbourTick = (ticks: readonly Tick[], on: Day, direction: 1 | -1): Day | null =>
  (direction === 1
    ? ticks.find(({ day }) => isBefore(on, day))?.day
    : ticks.filter(({ day }) => isBefore(day, on)).at(-1)?.day) ?? null;

export const TopBar = ({ onMode, ticks }: { onMode: (mode: Mode) => void; ticks: readonly Tick[] }) => {
  const { t } = useTranslation();
  const session = useSession();
  const setDay = useSetDay();
  const [isFinding, setFinding] = useState(false);
  const [isHelping, setHelping] = useState(false);
  const [early] = useState(() => new EarlyKeys());
  const stepDay = useStepDay();
  const step = useCallback(
    (direction: 1 | -1) => stepDay((from) => neighbourTick(ticks, from, direction)),
    [ticks, stepDay],
  );
  useKeys({
    next: () => step(1),
    previous: () => step(-1),
    today: () => setDay(session.today),
    help: () => setHelping(true),
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      early.begin();
      setFinding(true);
    };
    document.addEventListener('keydown', press);
    return () => document.removeEventListener('keydown', press);
  }, [early]);
  return (
    <header className="top">
      <div>
        <span className="name">Gremium</span>
        {session.logo && <Logo of={session.logo} height={22} />}
        <span className="organisation">{session.organisation}</span>
      </div>
      <button type="button" className="find" onClick={() => setFinding(true)}>
        <svg width="13" height="13" viewBox="0 0 13 13" aria-hidden>
          <circle cx="5.5" cy="5.5" r="4" fill="none" stroke="currentColor" strokeWidth="1.3" />
          <path d="M8.5 8.5 12 12" stroke="currentColor" strokeWidth="1.3" />
        </svg>
        {t('find.open')} <kbd>{t('find.key')}</kbd>
      </button>
      <LensButton onStep={step} />
      <Me onMode={onMode} onHelp={() => setHelping(true)} />
      {isFinding && (
        <Suspense fallback={null}>
          <FindOrDo early={early} onClose={() => setFinding(false)} />
        </Suspense>
      )}
      {isHelping && (
        <Suspense fallback={null}>
          <KeyHelp onClose={() => setHelping(false)} />
        </Suspense>
      )}
    </header>
  );
};

const LensButton = ({ onStep }: { onStep: (direction: 1 | -1) => void }) => {
  const { t } = useTranslation();
  const { on, today, isToday, known } = useLens();
  const format = useFormat();
  const setDay = useSetDay();
  const set = useSetParams();
  const [isOpen, setOpen] = useState(false);
  const days = daysBetween(today, on);
  const isElsewhere = !isToday || known !== null;
  return (
    <div className={isElsewhere ? 'lens elsewhere' : 'lens'}>
      {isElsewhere && (
        <button
          type="button"
          className="back"
          onClick={() => (known ? set({ known: null, on: null }) : setDay(today))}
        >
          {t('lens.back')} <kbd>t</kbd>
        </button>
      )}
      <button type="button" className="step" aria-label={t('lens.previous')} onClick={() => onStep(-1)}>
        ‹
      </button>
      <Popover
        open={isOpen}
        onOpenChange={setOpen}
        trigger="click"
        placement="bottomRight"
        destroyOnHidden
        content={
          <Suspense fallback={<p>{t('waiting')}</p>}>
            <LensPanel onClose={() => setOpen(false)} />
          </Suspense>
        }
      >
        <button type="button" className="day" aria-haspopup="dialog" aria-expanded={isOpen}>
          {isToday ? (
            <>
              <b>{t('lens.today')}</b> {format.day(on)}
            </>
          ) : (
            <>
              <b>{format.day(on)}</b>{' '}
              {days > 0 ? t('lens.in', { count: days }) : t('lens.ago', { count: -days })}
            </>
          )}
        </button>
      </Popover>
      <button type="button" className="step" aria-label={t('lens.next')} onClick={() => onStep(1)}>
        ›
      </button>
    </div>
  );
};

/** Said under the strip whenever what is shown is not of today, or not what is known now. */
export const LensLine = () => {
  const { t } = useTranslation();
  const { on, isToday, known, today } = useLens();
  const set = useSetParams();
  const format = useFormat();
  if (isToday && !known) return null;
  const sentence = isToday ? '' : t(on > today ? 'lens.later' : 'lens.earlier', { day: format.day(on) });
  return (
    <p className="lensline" role="status">
      {[sentence, known && t('lens.known', { moment: format.moment(known) })].filter(Boolean).join(' ')}
      {known && (
        <>
          {' '}
          <button type="button" className="textact" onClick={() => set({ known: null })}>
            {t('lens.toNow')}
          </button>
        </>
      )}
    </p>
  );
};

const Me = ({ onMode, onHelp }: { onMode: (mode: Mode) => void; onHelp: () => void }) => {
  const { t, i18n } = useTranslation();
  const { viewer } = useSession();
  const mode = useMode();
  const queries = useQueryClient();
  const other = mode === 'dark' ? 'light' : 'dark';
  const signOut = async () => {
    await call(accessEndpoints.signOut, {});
    queries.clear();
    location.assign('/');
  };
  return (
    <Popover
      trigger="click"
      placement="bottomRight"
      content={
        <div className="me-panel">
          <div className="serif">{viewer.name}</div>
          <div className="source">{viewer.email}</div>
          <Button type="text" onClick={() => onMode(other)}>
            {t(`theme.${other}`)}
          </Button>
          <Button type="text" onClick={() => void setLanguage(i18n.language === 'de' ? 'en' : 'de')}>
            {t('language')}
          </Button>
          <Button type="text" onClick={onHelp}>
            {t('keys.title')}
          </Button>
          <Button type="text" onClick={() => void signOut()}>
            {t('entrance.signOut')}
          </Button>
        </div>
      }
    >
      <button type="button" className="me">
        <Monogram name={viewer.name} size={26} />
        <span className="hidden">{t('me', { name: viewer.name })}</span>
      </button>
    </Popover>
  );
};
