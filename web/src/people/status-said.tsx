import type { Day, PersonLine } from '@gremium/contract';
import { daysBetween } from '@gremium/core';
import { useCallback } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';

/** What stands at the end of somebody's line: in how many days they come, that they are away or left. */
export const useStatusSaid = () => {
  const { t } = useTranslation();
  const { on } = useLens();
  return useCallback(
    ({ status, since }: Pick<PersonLine, 'status' | 'since'>): React.ReactNode => {
      if (status === 'coming' && since) {
        const days = daysBetween(on, since as Day);
        return <span className="indigo">{t('people.inDays', { count: days })}</span>;
      }
      return status === 'at_work' ? null : t(`status.${status}`);
    },
    [on, t],
  );
};
