import type { Problem } from '@gremium/contract';
import { momentBefore } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { Link, useLocation } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { useSentence } from './problems';

/** Problems that say why a record is not there. */
export const isGone = ({ code }: Problem): boolean => code === 'record_undone' || code === 'record_later';

/** A record that was undone, or that is of later than the moment looked at: what it was, who undid it, and where it can be seen. */
export const GoneRecord = ({ problem }: { problem: Problem }) => {
  const { t } = useTranslation();
  const sentence = useSentence();
  const format = useFormat();
  const to = useTo();
  const set = useSetParams();
  const { pathname } = useLocation();
  const may = useMay();
  const { name, entry, undone, at, who } = problem.params as Record<string, string>;
  const entryLink = (number: string) => (
    <Link to={to(`/setup/journal/${number}`)}>{t('slip.entryNumber', { number })}</Link>
  );
  return (
    <main className="record">
      <header className="recordhead">
        <h1>{name}</h1>
        <p>{sentence(problem)}</p>
        {undone && at && (
          <p>
            {t('record.undoneBy', { at: format.moment(at), who })}
            {may.act('journal') && entry && (
              <>
                {' '}
                {entryLink(entry)}, {entryLink(undone)}
              </>
            )}
          </p>
        )}
        <div className="acts">
          {undone && at ? (
            <Link className="textact" to={to(pathname, { known: momentBefore(at as never) })}>
              {t('record.seeBefore')}
            </Link>
          ) : (
            <button type="button" className="textact" onClick={() => set({ known: null })}>
              {t('lens.knownNow')}
            </button>
          )}
        </div>
      </header>
    </main>
  );
};
