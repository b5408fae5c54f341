import type { ManagerOut } from '@gremium/contract';
import { Fragment } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';

/** The chain of managers upward, nearest first; bridged ones are said to be. */
export const Managers = ({ of }: { of: readonly ManagerOut[] }) => {
  const { t } = useTranslation();
  const to = useTo();
  if (of.length === 0) return <p className="managers soft">{t('record.top')}</p>;
  return (
    <p className="managers">
      {t('record.reportsTo')}{' '}
      {of.map(({ personId, positionId, name, title, bridged }, i) => (
        <Fragment key={positionId}>
          {i > 0 && <span className="soft"> › </span>}
          {name ? (
            <Link className="serif" to={to(`/people/${personId}`)} title={title}>
              {name}
            </Link>
          ) : (
            <span className="soft">{t('notSeen')}</span>
          )}
          {bridged && <span className="ochre"> {t('record.bridged')}</span>}
        </Fragment>
      ))}
    </p>
  );
};
