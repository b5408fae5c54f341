import { Suspense, lazy, useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { Navigate, Route, Routes, useSearchParams } from 'react-router';
import { keepOnLeaving } from '../movements/drafts';
import { useTicks } from '../time/time.queries';
import type { Mode } from '../tokens';
import { Dividers } from './dividers';
import { useMay } from './session';
import { TimeStrip } from './time-strip';
import { LensLine, TopBar } from './top-bar';

const Outline = lazy(async () => ({ default: (await import('../structure/outline')).Outline }));
const Positions = lazy(async () => ({ default: (await import('../structure/positions')).Positions }));
const People = lazy(async () => ({ default: (await import('../people/people')).People }));
const CrossTable = lazy(async () => ({ default: (await import('../measures/cross-table')).CrossTable }));
const Imports = lazy(async () => ({ default: (await import('../files/imports')).Imports }));
const Templates = lazy(async () => ({ default: (await import('../files/templates')).Templates }));
const Journal = lazy(async () => ({ default: (await import('../time/journal')).Journal }));
const SlipPanel = lazy(async () => ({ default: (await import('../movements/slip-panel')).SlipPanel }));

/** What is around every view once somebody is signed in: dividers, lens, strip; then the view, and the slip beside it. */
export const Inside = ({ onMode }: { onMode: (mode: Mode) => void }) => {
  const { t } = useTranslation();
  const may = useMay();
  const [params] = useSearchParams();
  const ticks = useTicks();
  useEffect(() => keepOnLeaving(), []);
  const home = may.view('unit') ? '/structure/outline' : '/people';
  const hasSlip = params.has('slip') || params.has('undo');
  return (
    <div className={`app${hasSlip ? ' with-slip' : ''}`}>
      <Dividers />
      <TopBar onMode={onMode} ticks={ticks} />
      <TimeStrip ticks={ticks} />
      <LensLine />
      <div className="body">
        <Suspense fallback={<main className="waiting">{t('waiting')}</main>}>
          <Routes>
            <Route path="/people/:id?" element={<People />} />
            <Route path="/structure/outline" element={<Outline />} />
            <Route path="/structure/positions/:id?" element={<Positions />} />
            <Route path="/files/imports/:id?" element={<Imports />} />
            <Route path="/files/templates" element={<Templates />} />
            <Route path="/reports/cross-table" element={<CrossTable />} />
            <Route path="/setup/journal/:number?" element={<Journal />} />
            <Route path="*" element={<Navigate to={home} replace />} />
          </Routes>
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
