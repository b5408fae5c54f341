import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { EmptySheet } from './empty-sheet';
import { Problems } from './problems';
import { SearchLine } from './search-line';
import { AddFilter, type Pick } from './sentence';

type Filters = {
  sentence: React.ReactNode;
  /** The part of the sentence that may name any field. */
  where?: React.ReactNode;
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
  /** Under the list. */
  foot?: React.ReactNode;
  /** What has the sheet to itself in place of the list, while no record is open. */
  wide?: React.ReactNode;
};

/** A list at the left and the record that is open in it: the one layout of people, positions and the journal. */
export const ListAndRecord = ({
  title,
  views,
  filters,
  lead,
  error,
  list,
  record,
  choose,
  foot,
  wide,
}: Props) => {
  const isWide = Boolean(wide) && !record;
  const sheet =
    record ??
    (typeof choose === 'string' ? (
      <EmptySheet choose={choose} />
    ) : (
      <main className="record nothing">{choose}</main>
    ));
  const List = isWide ? 'main' : 'section';
  return (
    <div className="listandrecord">
      <List className={isWide ? 'list wide' : 'list'} aria-label={title}>
        {views}
        <div className="query">
          <h1 className={filters ? 'hidden' : undefined}>{title}</h1>
          {lead}
          {filters && <FilterLines {...filters} />}
        </div>
        <Problems of={error} />
        {!error && (isWide ? wide : list)}
        {foot}
      </List>
      {!isWide && sheet}
    </div>
  );
};

const FilterLines = ({ sentence, where, picks, search, count }: Filters) => {
  const { t } = useTranslation();
  const format = useFormat();
  const { on, isToday } = useLens();
  return (
    <>
      <p>
        {sentence} {where}
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
