import dayjs from 'dayjs';
import updateLocale from 'dayjs/plugin/updateLocale';
import { Suspense, useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { Navigate, Route, Routes, useSearchParams } from 'react-router';
import { keepOnLeaving } from '../time/kept';
import { useTicks } from '../time/time.queries';
import type { Mode } from '../tokens';
import { Dividers } from './dividers';
import { homeOf, pages } from './pages';
import { useMay, useSession } from './session';
import { TimeStrip } from './time-strip';
import { LensLine, TopBar } from './top-bar';
import { lazily } from '../ui/lazily';

dayjs.extend(updateLocale);

const SlipPanel = lazily(async () => (await import('../movements/slip-panel')).SlipPanel);

/** What is around every view once somebody is signed in: dividers, lens, strip; then the view, and the slip beside it. */
export const Inside = ({ onMode }: { onMode: (mode: Mode) => void }) => {
  const { t } = useTranslation();
  const [params] = useSearchParams();
  const ticks = useTicks();
  useEffect(() => keepOnLeaving(), []);
  useWeekStart();
  const hasSlip = params.has('slip') || params.has('undo');
  return (
    <div className={`app${hasSlip ? ' with-slip' : ''}`}>
      <Dividers />
      <TopBar onMode={onMode} ticks={ticks} />
      <TimeStrip ticks={ticks} />
      <LensLine />
      <div className="body">
        <Suspense fallback={<main className="waiting">{t('waiting')}</main>}>
          <Pages />
        </Suspense>
        {hasSlip && (
          <Suspense fallback={<aside className="slip waiting">{t('waiting')}</aside>}>
            <SlipPanel />
          </Suspense>
        )}
      </div>
    </div>
  );
};

// Calendars begin the week on the organisation's first day of it.
const useWeekStart = () => {
  const { weekStart } = useSession();
  const { language } = useTranslation().i18n;
  useEffect(() => {
    dayjs.updateLocale(language === 'de' ? 'de' : 'en-gb', { weekStart: weekStart % 7 });
  }, [weekStart, language]);
};

const Pages = () => {
  const may = useMay();
  const { viewer } = useSession();
  return (
    <Routes>
      {pages.map(({ path, param, View }) => (
        <Route key={path} path={param ? `${path}/:${param}?` : path} element={<View />} />
      ))}
      <Route path="*" element={<Navigate to={homeOf(may, viewer)} replace />} />
    </Routes>
  );
};
