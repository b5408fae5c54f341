import type { FiguresOut } from '@gremium/contract';
import { useTranslation } from 'react-i18next';
import { useWithOthers } from '../people/counted';
import { useFormat } from '../texts/format';

/** Of whom figures are: people and FTE who count, and how many there are with the others. */
export const useScopeSaid = () => {
  const { t } = useTranslation();
  const format = useFormat();
  const withOthers = useWithOthers();
  return ({ people, notCounted, fte, fteNotCounted }: FiguresOut): string => {
    const said = withOthers(people, notCounted);
    if (fteNotCounted === 0) return said;
    return t('outline.withFte', { said, fte: format.hundredths(fte + fteNotCounted) });
  };
};
