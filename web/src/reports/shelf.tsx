import './reports.css';
import { type ReportOut, ViewDefinition } from '@gremium/contract';
import { fold } from '@gremium/core';
import { Input } from 'antd';
import { useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useSearchParams } from 'react-router';
import { useGo, useSetParams, useTo } from '../frame/lens';
import { useNameOfPage } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { PlainTable } from '../ui/plain-table';
import { Problems } from '../ui/problems';
import { type Pick, PickWord } from '../ui/sentence';
import { Views } from '../ui/views';
import { encodeView, freshView } from './definition';
import { reportWords } from './report-words';
import { useKeepReport, useReportFields, useShelf } from './reports.queries';

/** Reports by folder: own ones, those that are shared, those that are ready-made. */
export const Shelf = () => {
  const words = useWords(reportWords);
  const pageName = useNameOfPage('/reports/shelf');
  const shelf = useShelf();
  const [params] = useSearchParams();
  const set = useSetParams();
  const shown = params.get('shown') ?? 'all';
  const search = params.get('search') ?? '';
  const wanted = fold(search).split(' ').filter(Boolean);
  const fits = (report: ReportOut) =>
    (shown !== 'mine' || report.isMine) &&
    wanted.every((word) => fold([report.name, report.folder, ...report.tags].join(' ')).includes(word));
  const all = (shelf.data?.reports ?? []).filter(fits);
  const here = all.filter(({ deletedAt }) => deletedAt === null);
  const gone = all.filter(({ deletedAt }) => deletedAt !== null);
  const folders = [...new Set(here.map(({ folder }) => folder))].sort((a, b) => a.localeCompare(b));
  const pick: Pick = {
    name: 'shown',
    label: words.show,
    value: shown,
    options: [
      { value: 'all', label: words.everything },
      { value: 'mine', label: words.mine },
    ],
    onChange: (value) => set({ shown: value === 'all' ? null : value }),
  };
  return (
    <main className="sheet shelf">
      <Views of="reports" />
      <div className="shelfbody">
        <header>
          <h1>{pageName}</h1>
          <Acts />
        </header>
        <p>
          {words.sentence} <PickWord pick={pick} />
        </p>
        <Input
          className="line-input"
          variant="underlined"
          aria-label={words.search}
          placeholder={words.search}
          defaultValue={search}
          onChange={(event) => set({ search: event.target.value })}
        />
        <Problems of={shelf.error} />
        {shelf.data && here.length === 0 && <p className="soft">{words.none}</p>}
        {folders.map((folder) => (
          <section key={folder}>
            <h2>{folder || words.noFolder}</h2>
            <Lines reports={here.filter((report) => report.folder === folder)} />
          </section>
        ))}
        {gone.length > 0 && (
          <section>
            <h2>{words.gone}</h2>
            <Lines reports={gone} />
          </section>
        )}
      </div>
    </main>
  );
};

const Acts = () => {
  const words = useWords(reportWords);
  const go = useGo();
  const file = useRef<HTMLInputElement>(null);
  const [isBad, setBad] = useState(false);
  const takeIn = async (chosen: File | undefined) => {
    if (!chosen) return;
    try {
      const { view } = JSON.parse(await chosen.text()) as { view?: unknown };
      const read = ViewDefinition.safeParse(view);
      setBad(!read.success);
      if (read.success) go('/reports/list', { view: encodeView(read.data) });
    } catch {
      setBad(true);
    }
  };
  return (
    <p>
      <button
        type="button"
        className="textact"
        onClick={() => go('/reports/list', { view: encodeView(freshView('person_name')) })}
      >
        {words.add}
      </button>
      {' · '}
      <button type="button" className="textact" onClick={() => file.current?.click()}>
        {words.takeIn}
      </button>
      <input
        ref={file}
        type="file"
        hidden
        accept="application/json"
        aria-label={words.takeIn}
        onChange={(event) => void takeIn(event.target.files?.[0])}
      />
      {isBad && <span className="brick"> ! {words.badDefinition}</span>}
    </p>
  );
};

const Lines = ({ reports }: { reports: readonly ReportOut[] }) => {
  const words = useWords(reportWords);
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const { remove, restore } = useKeepReport();
  const subjects = useReportFields().data?.subjects ?? [];
  return (
    <PlainTable
      heads={[
        { label: words.name },
        { label: words.about },
        { label: words.owner },
        { label: words.changed, isShort: true },
        { label: t('edit.acts'), isShort: true },
      ]}
      rows={reports.map((report) => ({
        key: report.id,
        cells: [
          <span key="name">
            <Link className="serif" to={to(`/reports/list/${report.id}`)}>
              {report.name}
            </Link>
            {report.tags.length > 0 && <span className="soft"> {report.tags.join(', ')}</span>}
          </span>,
          subjects.find(({ name }) => name === report.view.subject)?.label ?? report.view.subject,
          report.isMine ? words.me : (report.owner ?? words.shipped),
          report.owner === null ? '' : format.day(report.changedAt.slice(0, 10)),
          report.isMine ? (
            <button
              key="act"
              type="button"
              className="textact"
              onClick={() => (report.deletedAt ? restore : remove).mutate(report.id)}
            >
              {report.deletedAt ? words.restore : words.remove}
            </button>
          ) : (
            ''
          ),
        ],
      }))}
    />
  );
};
