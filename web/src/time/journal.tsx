import type { Bound, SectionName } from '@gremium/contract';
import { type Register, RowRegister, lastDay, momentBefore } from '@gremium/core';
import { Button } from 'antd';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams, useSearchParams } from 'react-router';
import { useKeys } from '../frame/keys';
import { useSetParams, useTo } from '../frame/lens';
import { hasRecord, pathOf, useNameOfPage } from '../frame/pages';
import { useMay } from '../frame/session';
import { listViewWords } from '../lists/list-view-words';
import { WhereLine } from '../lists/where-line';
import { useReportFields } from '../reports/reports.queries';
import { useWords } from '../texts/words';
import { useEntryName } from './entry-name';
import { useEntrySaid } from './entry-said';
import { useFormat } from '../texts/format';
import { Facts, useShow } from '../ui/field-value';
import { type Field, fieldsOf } from '../ui/fields';
import { RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Problems } from '../ui/problems';
import { type NameOf, useEntry, useJournal, useReferenceRegister } from './time.queries';
import { useFieldName } from '../ui/field-name';
import { useSectionName } from '../ui/section-name';

/** All entries, latest first, and what one of them wrote. */
export const Journal = () => {
  const { t } = useTranslation();
  const words = useWords(listViewWords);
  const pageName = useNameOfPage('/setup/journal');
  const { number } = useParams();
  const format = useFormat();
  const to = useTo();
  const [params] = useSearchParams();
  const set = useSetParams();
  const where = params.get('where') ?? '';
  const journal = useJournal(null, where);
  // a part of the journal is read as it comes: conditions are over all of it
  const isWhole = useReportFields('entry').isSuccess;
  const saidOf = useEntrySaid();
  const entries = useMemo(() => journal.data?.pages.flatMap((page) => page.entries) ?? [], [journal.data]);
  const items = useMemo(
    () =>
      grouped(
        entries,
        ({ moment }) => format.day(moment.slice(0, 10)),
        (entry) => ({
          key: String(entry.number),
          path: `/setup/journal/${entry.number}`,
          to: to(`/setup/journal/${entry.number}`, where ? { where } : {}),
          mark: <span className="entrynumber n">{entry.number}</span>,
          name: saidOf(entry),
          about: `${format.clock(entry.moment)}, ${entry.account}`,
          end: entry.undoneBy === null ? null : <span className="soft">{t('journal.undone')}</span>,
        }),
      ),
    [entries, t, saidOf, format, to, where],
  );
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = journal;
  return (
    <ListAndRecord
      title={pageName}
      lead={
        <>
          <p className="soft">{journal.isPending ? t('waiting') : t('journal.lead')}</p>
          {isWhole && (
            <p>
              <WhereLine
                subject={'entry' as SectionName}
                where={where}
                onChange={(text) => set({ where: text || null })}
              />
            </p>
          )}
        </>
      }
      error={journal.error}
      list={
        !journal.isPending && (
          <RecordList
            label={pageName}
            items={items}
            open={number ? `/setup/journal/${number}` : ''}
            onEnd={() => {
              if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
            }}
            empty={where ? words.empty : t('journal.empty')}
          />
        )
      }
      record={number ? <EntrySheet key={number} number={Number(number)} /> : null}
      choose={t('journal.choose')}
    />
  );
};

type RowLike = {
  id: number;
  thing: number;
  from: Bound;
  until: Bound;
  section: SectionName;
  values: Record<string, unknown>;
};

const EntrySheet = ({ number }: { number: number }) => {
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const set = useSetParams();
  const may = useMay();
  const [params] = useSearchParams();
  const entry = useEntry(number);
  const nameOfEntry = useEntryName();
  const reference = useReferenceRegister();
  const undo = () => set({ undo: String(number), slip: null });
  const head = entry.data?.entry;
  const mayUndo = may.act('undo') && head !== undefined && head.undoneBy === null;
  useKeys({ ...(mayUndo ? { undo } : {}) });
  if (entry.error)
    return (
      <main className="record">
        <Problems of={entry.error} />
      </main>
    );
  if (!entry.data || !head) return <main className="record waiting">{t('waiting')}</main>;
  const { recorded, superseded, names } = entry.data;
  const nameOf: NameOf = (kind, id) => {
    const found = names.find((name) => name.kind === kind && name.id === id)?.name;
    const values = reference?.rows(kind as 'job', id ?? 0).at(-1)?.values as { name?: string } | undefined;
    return found ?? values?.name ?? '';
  };
  return (
    <main className="record">
      <header className="recordhead">
        <div className="title">
          <h1>{nameOfEntry(head.kind)}</h1>
          <span className="soft n">{t('journal.number', { number })}</span>
        </div>
        <p className="serif">
          {head.about.map(({ kind, id, name }, i) => (
            <span key={`${kind} ${id}`}>
              {i > 0 && ', '}
              {hasRecord(kind) ? <Link to={to(pathOf(kind, id))}>{name}</Link> : name}
            </span>
          ))}
        </p>
        <p className="soft">
          {t('journal.by', { at: format.moment(head.moment), who: head.account })}
          {head.reason ? ` · ${head.reason}` : ''}
        </p>
        {head.undoes.length > 0 && (
          <p>
            {t('journal.undoes')}{' '}
            {head.undoes.map((of) => (
              <Link key={of} to={to(`/setup/journal/${of}`)}>
                {of}{' '}
              </Link>
            ))}
          </p>
        )}
        {head.undoneBy !== null && (
          <p className="ochre">
            {t('journal.undoneBy')} <Link to={to(`/setup/journal/${head.undoneBy}`)}>{head.undoneBy}</Link>
          </p>
        )}
        <div className="acts">
          {mayUndo && (
            <Button type={params.has('undo') ? 'default' : 'primary'} onClick={undo}>
              {t('undo.act')}
            </Button>
          )}
          <Link className="textact" to={to('/structure/outline', { known: momentBefore(head.moment) })}>
            {t('journal.before')}
          </Link>
        </div>
      </header>
      <div className="recordbody">
        <Written rows={recorded as RowLike[]} title={t('journal.recorded')} {...{ reference, nameOf }} />
        <Written rows={superseded as RowLike[]} title={t('journal.superseded')} {...{ reference, nameOf }} />
        <section className="block">
          <h2>{t('journal.seal')}</h2>
          <p className="digest n">{head.digest}</p>
        </section>
      </div>
    </main>
  );
};

type WrittenProps = { rows: RowLike[]; title: string; reference: Register | null; nameOf: NameOf };

const MOST = 120;

const Written = ({ rows, title, reference, nameOf }: WrittenProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const show = useShow({ register: reference ?? new RowRegister(), nameOf });
  const nameOfField = useFieldName();
  const nameOfSection = useSectionName();
  if (rows.length === 0) return null;
  const factOf = (row: RowLike) => (field: Field) => ({
    label: nameOfField(row.section, field.name),
    value: show(field, row.values[field.name]),
  });
  return (
    <section className="block">
      <h2>
        {title} <span className="since">{t('journal.rows', { count: rows.length })}</span>
      </h2>
      {rows.slice(0, MOST).map((row) => (
        <div key={row.id} className="written">
          <h3>
            {nameOfSection(row.section)}
            <span className="since">
              {row.from === '-infinity' && row.until === 'infinity'
                ? t('time.always')
                : t('journal.period', {
                    from: format.day(row.from),
                    until: row.until === 'infinity' ? t('time.open') : format.day(lastDay(row)),
                  })}
            </span>
          </h3>
          <Facts
            of={fieldsOf(row.section)
              .map(factOf(row))
              .filter(({ value }) => value !== '')}
          />
        </div>
      ))}
      {rows.length > MOST && <p className="soft">{t('journal.more', { count: rows.length - MOST })}</p>}
    </section>
  );
};
