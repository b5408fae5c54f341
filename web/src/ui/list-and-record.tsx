import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { EmptySheet } from './empty-sheet';
import { Problems } from './problems';
import { SearchLine } from './search-line';
import { AddFilter, type Pick } from './sentence';

type Filters = {
  sentence: React.ReactNode;
  picks: Pick[];
  search: { value: string; label: string; onChange: (text: string) => void };
  count: string;
};

type Props = {
  title: string;
  views?: React.ReactNode;
  /** What the list shows, as a sentence and as a form; left out where it shows everything. */
  filters?: Filters;
  lead?: React.ReactNode;
  error: Error | null;
  list: React.ReactNode;
  /** Null while none is chosen. */
  record: React.ReactNode;
  choose: React.ReactNode;
};

/** A list at the left and the record that is open in it: the one layout of people, positions and the journal. */
export const ListAndRecord = ({ title, views, filters, lead, error, list, record, choose }: Props) => (
  <div className="listandrecord">
    <section className="list" aria-label={title}>
      {views}
      <div className="query">
        <h1 className={filters ? 'hidden' : undefined}>{title}</h1>
        {lead}
        {filters && <FilterLines {...filters} />}
      </div>
      <Problems of={error} />
      {!error && list}
    </section>
    {record ??
      (typeof choose === 'string' ? (
        <EmptySheet choose={choose} />
      ) : (
        <main className="record nothing">{choose}</main>
      ))}
  </div>
);

const FilterLines = ({ sentence, picks, search, count }: Filters) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on, isToday } = useLens();
  return (
    <>
      <p>
        {sentence}
        {!isToday && <span className="indigo"> {t('filter.on', { day: format.day(on) })}</span>}
      </p>
      <SearchLine {...search} />
      <div className="count">
        <span>{count}</span>
        {picks.length > 0 && <AddFilter picks={picks} />}
      </div>
    </>
  );
};
