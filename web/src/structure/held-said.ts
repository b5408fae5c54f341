import { useCallback } from 'react';
import { useTranslation } from 'react-i18next';
import { useFormat } from '../texts/format';

/** What is held of a position, and its limits; FTE in hundredths, null: no limit. */
type Held = { held: number; limit: number | null; holders: number; places: number | null };

/** How far a position is held beyond its limits, in words ("0.10 FTE over"); empty where it is not. */
export const useExcess = () => {
  const { t } = useTranslation();
  const format = useFormat();
  return useCallback(
    ({ held, limit, holders, places }: Held): string => {
      if (limit !== null && held > limit)
        return t('position.overFte', { fte: format.hundredths(held - limit) });
      if (places !== null && holders > places) return t('position.overPlaces', { count: holders - places });
      return '';
    },
    [t, format],
  );
};

/** What is held of what may be held: "1.10 of 1.00, 0.10 FTE over". */
export const useHeldSaid = () => {
  const { t } = useTranslation();
  const format = useFormat();
  const excess = useExcess();
  return useCallback(
    (of: Held & { mark: string }): string => {
      if (of.limit === null) return format.hundredths(of.held);
      const [held, limit] = [format.hundredths(of.held), format.hundredths(of.limit)];
      const said = t('position.heldOf', { held, limit });
      return [said, of.mark === 'over_held' ? excess(of) : ''].filter(Boolean).join(', ');
    },
    [t, format, excess],
  );
};
