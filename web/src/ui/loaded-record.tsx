import type { RecordOut, SectionRowOut } from '@gremium/contract';
import type { UseQueryResult } from '@tanstack/react-query';
import { useTranslation } from 'react-i18next';
import { Refused } from '../api';
import { useRecordRegister } from '../time/time.queries';
import type { Showing } from './field-value';
import { GoneRecord, isGone } from './gone-record';
import { Problems } from './problems';

type Loaded<R> = Showing & { record: R };

/** The sheet of a record once it is read, with its versions as a register; until then waiting, or why it may not be seen. */
export const LoadedRecord = <R extends RecordOut>({
  query,
  units,
  children,
}: {
  query: UseQueryResult<R>;
  units?: readonly SectionRowOut[] | undefined;
  children: (loaded: Loaded<R>) => React.ReactNode;
}) => {
  const { t } = useTranslation();
  const read = useRecordRegister(query.data, units);
  const gone = query.error instanceof Refused ? query.error.problems.find(isGone) : undefined;
  if (gone) return <GoneRecord problem={gone} />;
  if (query.error)
    return (
      <main className="record">
        <Problems of={query.error} />
      </main>
    );
  if (!query.data || !read) return <main className="record waiting">{t('waiting')}</main>;
  return children({ record: query.data, ...read });
};
