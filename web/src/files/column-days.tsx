// Which of day and month comes first in a column: what its cells tell, or both readings of one of them to choose from.
import { type Day, DayOrder, type ImportColumn } from '@gremium/contract';
import { readDay } from '@gremium/core';
import { Fragment } from 'react';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';

type DaysProps = {
  heading: string;
  days: NonNullable<ImportColumn['days']>;
  onChoose: ((order: DayOrder) => void) | undefined;
};

/** The line of a column of days: decided by its cells, by somebody, or asked. */
export const ColumnDays = ({ heading, days, onChoose }: DaysProps) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const { today } = useLens();
  const { order, chosen, example, told } = days;
  // where no cell is a day both ways nothing hangs on it
  if (example === null && told === null) return null;
  const readingOf = (of: DayOrder): string => {
    const read = readDay(example ?? told ?? '', { order: of, today: today as Day });
    return 'value' in read ? format.dayInWords(read.value) : '';
  };
  const other = DayOrder.options.filter((one) => one !== order);
  return (
    <span
      className={order === null ? 'columndays ochre' : 'columndays source'}
      role="group"
      aria-label={heading}
    >
      {order === null && `! ${t('days.asked', { cell: example ?? '' })} `}
      {order !== null && !chosen && told !== null && t(`days.${order}`, { cell: told })}
      {order !== null &&
        chosen &&
        t(`days.${order}_chosen`, { cell: example ?? told ?? '', day: readingOf(order) })}
      {onChoose && example !== null && (order === null || chosen) && (
        <>
          {' '}
          {other.map((one, i) => (
            <Fragment key={one}>
              {i > 0 && ` ${t('days.or')} `}
              <button type="button" className="textact" onClick={() => onChoose(one)}>
                {readingOf(one)}
              </button>
            </Fragment>
          ))}
        </>
      )}
    </span>
  );
};
