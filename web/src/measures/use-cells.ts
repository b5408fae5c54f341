import { useTranslation } from 'react-i18next';
import { useFormat } from '../texts/format';
import type { Asked } from './measures.queries';

/** How the figures of a measure are written. */
export const useCells = ({ measure }: Pick<Asked, 'measure'>) => {
  const { t } = useTranslation('reports');
  const format = useFormat();
  const isRate = measure === 'turnover';
  const isFte = measure === 'fte' || measure === 'fteAtWork';
  return {
    measure: t(`names.${measure}`),
    isRate,
    isFte,
    /** A figure without its unit; no rate is a dash. */
    value: (value: number | null): string => {
      if (value === null) return '–';
      if (isRate) return format.rate(value);
      return isFte ? format.hundredths(value) : format.number(value);
    },
    /** What chips count: people, or FTE. */
    count: (count: number): string => (isFte ? format.number(Math.round(count / 100)) : format.number(count)),
    /** As the axis of a chart counts. */
    plain: (value: number | null): number | null => {
      if (value === null) return null;
      return isRate ? value * 100 : isFte ? value / 100 : value;
    },
  };
};
