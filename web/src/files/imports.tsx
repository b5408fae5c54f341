import './files.css';
import type { ImportLine } from '@gremium/contract';
import { Button } from 'antd';
import i18next from 'i18next';
import { type DragEvent, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { useGo, useTo } from '../frame/lens';
import { useSession } from '../frame/session';
import { useFormat } from '../texts/format';
import { RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Choice } from '../ui/field-input';
import { de, en } from './file-texts';
import { Views } from '../ui/views';
import { useImportSubjects, useImports, useTakeIn } from './files.queries';
import { ImportSheet } from './import-sheet';

i18next.addResourceBundle('en', 'files', en);
i18next.addResourceBundle('de', 'files', de);

/** Files taken in, newest first, and one of them; a file dropped anywhere here is taken in. */
export const Imports = () => {
  const { t } = useTranslation('files');
  const { t: texts } = useTranslation();
  const { id } = useParams();
  const go = useGo();
  const input = useRef<HTMLInputElement>(null);
  const [isOver, setOver] = useState(false);
  const imports = useImports();
  const subjects = useImportSubjects();
  const [subject, setSubject] = useState('any');
  const takeIn = useTakeIn((made) => go(`/files/imports/${made}`));
  const choose = () => input.current?.click();
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    takeIn.mutate({ files: [...event.dataTransfer.files], subject });
  };
  const total = imports.data?.pages[0]?.total ?? 0;
  return (
    <div
      className={isOver ? 'filepage over' : 'filepage'}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (event.currentTarget === event.target) setOver(false);
      }}
      onDrop={drop}
    >
      <input
        ref={input}
        type="file"
        id="file-to-take-in"
        className="hidden"
        tabIndex={-1}
        aria-label={t('take')}
        accept=".csv,.tsv,.txt,.xlsx,.zip"
        multiple
        onChange={(event) => {
          takeIn.mutate({ files: [...(event.target.files ?? [])], subject });
          event.target.value = '';
        }}
      />
      <ListAndRecord
        title={t('imports')}
        views={<Views of="files" />}
        lead={
          <>
            <label className="aboutfile" htmlFor="import-subject">
              <span className="soft">{t('subject')}</span>
              <Choice
                id="import-subject"
                label={t('subject')}
                clearable={false}
                options={[
                  { value: 'any', label: t('anySubject') },
                  ...(subjects.data ?? []).map(({ name, label }) => ({ value: name, label })),
                ]}
                value={subject}
                onChange={(value) => setSubject(String(value))}
              />
            </label>
            <div className="count">
              <span>{imports.isPending ? texts('waiting') : t('lead', { count: total })}</span>
              <button type="button" className="textact" onClick={choose} disabled={takeIn.isPending}>
                {takeIn.isPending ? texts('waiting') : t('take')}
              </button>
            </div>
          </>
        }
        error={imports.error ?? takeIn.error}
        list={<Lines imports={imports} open={id ? `/files/imports/${id}` : ''} />}
        record={id ? <ImportSheet key={id} id={Number(id)} onAnother={choose} /> : null}
        choose={
          <div className="dropping">
            <p>{t(total === 0 ? 'drop' : 'choose')}</p>
            <Button type="primary" onClick={choose} loading={takeIn.isPending}>
              {t('take')}
            </Button>
          </div>
        }
      />
      {isOver && <div className="dropveil">{t('dropHere')}</div>}
    </div>
  );
};

const Lines = ({ imports, open }: { imports: ReturnType<typeof useImports>; open: string }) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const { today } = useSession();
  const to = useTo();
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = imports;
  const lines = useMemo(() => imports.data?.pages.flatMap((page) => page.imports) ?? [], [imports.data]);
  const items = grouped(
    lines,
    ({ at }) => (at.slice(0, 10) === today ? t('today') : format.day(at.slice(0, 10))),
    (line) => ({
      key: String(line.id),
      path: `/files/imports/${line.id}`,
      to: to(`/files/imports/${line.id}`),
      name: line.name,
      about: `${format.recently(line.at)}, ${line.by}`,
      end: <Ended of={line} />,
    }),
  );
  if (imports.isPending) return null;
  return (
    <RecordList
      label={t('imports')}
      items={items}
      open={open}
      onEnd={() => {
        if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
      }}
      empty={t('none')}
    />
  );
};

const COLOURS: Partial<Record<ImportLine['state'], string>> = {
  in_repair: 'ochre',
  ready: 'ochre',
  uploaded: 'ochre',
  written: 'moss',
};

const Ended = ({ of: { state, counts, work } }: { of: ImportLine }) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  if (work) return <span className="ochre">◷ {t(`working.${work.what}`)}</span>;
  const shown = format.number(
    state === 'in_repair' ? (counts?.refused ?? 0) : (counts?.new ?? 0) + (counts?.changed ?? 0),
  );
  return <span className={COLOURS[state]}>{t(`ended.${state}`, { shown })}</span>;
};
