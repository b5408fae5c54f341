import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { useMay } from '../frame/session';

/** After something was written: the way to its entry, and its undo, for whoever may. */
export const EntryLinks = ({ number }: { number: number }) => {
  const { t } = useTranslation();
  const to = useTo();
  const set = useSetParams();
  const may = useMay();
  return (
    <>
      {may.act('journal') && (
        <Link to={to(`/setup/journal/${number}`)}>{t('slip.entryNumber', { number })}</Link>
      )}
      {may.act('undo') && (
        <>
          {' · '}
          <button type="button" className="textact" onClick={() => set({ undo: String(number), slip: null })}>
            {t('undo.word')}
          </button>
        </>
      )}
    </>
  );
};
