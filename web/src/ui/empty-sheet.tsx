import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { pathOf } from '../frame/pages';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { useEntrySaid } from '../time/entry-said';
import { useJournal } from '../time/time.queries';
import { useLastSeen } from './last-seen';

/** What stands where no record is open yet: what can be done, what was looked at last, what is new. */
export const EmptySheet = ({ choose }: { choose: string }) => {
  const may = useMay();
  return (
    <main className="record nothing">
      <p>{choose}</p>
      <LastSeen />
      {may.act('journal') && <WhatIsNew />}
    </main>
  );
};

const LastSeen = () => {
  const { t } = useTranslation();
  const to = useTo();
  const seen = useLastSeen();
  if (seen.length === 0) return null;
  return (
    <section>
      <h2>{t('empty.lastSeen')}</h2>
      <ul className="plainlist">
        {seen.map(({ kind, id, name, about }) => (
          <li key={`${kind} ${id}`}>
            <Link className="serif" to={to(pathOf(kind, id))}>
              {name}
            </Link>{' '}
            <span className="source">{about}</span>
          </li>
        ))}
      </ul>
    </section>
  );
};

const NEW = 8;

const WhatIsNew = () => {
  const { t } = useTranslation();
  const to = useTo();
  const format = useFormat();
  const saidOf = useEntrySaid();
  const entries = useJournal().data?.pages[0]?.entries ?? [];
  if (entries.length === 0) return null;
  return (
    <section>
      <h2>{t('empty.new')}</h2>
      <ul className="plainlist">
        {entries.slice(0, NEW).map((entry) => (
          <li key={entry.number}>
            <Link to={to(`/setup/journal/${entry.number}`)}>{saidOf(entry)}</Link>{' '}
            <span className="source">
              {format.moment(entry.moment)}, {entry.account}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
};
