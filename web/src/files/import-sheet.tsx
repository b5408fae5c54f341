import type { ImportOut } from '@gremium/contract';
import { Button, Progress } from 'antd';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { hasRecord, pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { DayInput, isDay } from '../ui/day-input';
import { Problems, useSentence } from '../ui/problems';
import { PickWord } from '../ui/sentence';
import { ColumnMatching } from './column-matching';
import { useImport, useImportActs, useImportSubjects, useMissing } from './files.queries';
import { ImportFields } from './import-field-label';
import { ImportParts } from './import-parts';
import { ImportResult } from './import-result';
import { ImportRows } from './import-rows';
import { Step, type StepProps } from './import-step';
import { RepairGrid } from './repair-grid';
import { SheetChoice } from './sheet-choice';
import { WriteImport } from './write-import';

const OVER = ['written', 'cancelled', 'undone'];

/** One import as a page that fills downwards: file, columns, check, repair, write, result. */
export const ImportSheet = ({ id, onAnother }: { id: number; onAnother: () => void }) => {
  const { t } = useTranslation('files');
  const { t: texts } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const found = useImport(id);
  const acts = useImportActs(id);
  const sentence = useSentence();
  if (!found.data)
    return (
      <main className="record">
        {found.error ? <Problems of={found.error} /> : <p className="waiting">{texts('waiting')}</p>}
      </main>
    );
  const { name, at, by, state, counts, work, trouble, own, columns, partOf, parts } = found.data;
  const isOver = OVER.includes(state);
  const failed =
    Object.values(acts)
      .map(({ error }) => error)
      .find(Boolean) ?? null;
  const step = { of: found.data, acts };
  return (
    <ImportFields value={found.data.fields}>
      <main className="record import">
        <header className="recordhead">
          <div>
            <h1>{name}</h1>
            <p className="soft">
              {t('takenIn', { at: format.recently(at), who: by, state: t(`state.${state}`) })}
              {partOf !== null && (
                <>
                  {'. '}
                  <Link to={to(`/files/imports/${partOf}`)}>{t('parts.whole')}</Link>
                </>
              )}
            </p>
          </div>
          {!isOver && (
            <Button loading={acts.cancel.isPending} onClick={() => acts.cancel.mutate()}>
              {t(partOf === null ? 'cancel' : 'parts.leave')}
            </Button>
          )}
        </header>
        <Problems of={failed} />
        {trouble.map((problem) => (
          <p key={problem.code} className="problem" role="alert">
            ! {sentence(problem)}
          </p>
        ))}
        <FileStep {...step} onAnother={onAnother} />
        {columns.length > 0 && <ColumnMatching {...step} />}
        {parts.length > 0 && <ImportParts of={found.data} />}
        {work && <Working of={work} />}
        {counts && <CheckStep {...step} />}
        {counts && counts.refused > 0 && !isOver && columns.length > 0 && <RepairGrid {...step} />}
        {counts && !isOver && own && partOf === null && <WriteImport {...step} />}
        {isOver && <ImportResult of={found.data} />}
      </main>
    </ImportFields>
  );
};

const FileStep = ({ of, acts, onAnother }: StepProps & { onAnother: () => void }) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const { preview, fileName, sheet, sheets, comments, columns, counts, day, newNumbers, state, own } = of;
  const canChange = own && !OVER.includes(state);
  const rows = counts?.read;
  return (
    <Step
      number={1}
      name={t('file.head')}
      look="done"
      act={
        <button type="button" className="textact" onClick={onAnother}>
          {t('file.another')}
        </button>
      }
    >
      <b>{fileName}</b>. {sheet && t(sheets > 1 ? 'file.sheetOf' : 'file.sheet', { sheet, sheets })}{' '}
      {preview && preview.headingRow > 1 && `${t('file.headings', { row: preview.headingRow })} `}
      {rows !== undefined &&
        of.format !== 'zip' &&
        t('file.said', { count: rows, rows: format.number(rows), columns: columns.length })}{' '}
      {comments > 0 && t('file.comments', { count: comments })}{' '}
      <span className="forall">
        {t('file.day')}{' '}
        {canChange ? (
          <DayInput
            id="import-day"
            label={t('file.day')}
            value={day}
            whenLeft
            onChange={(next) => {
              if (isDay(next) && next !== day) acts.arrange.mutate({ day: next as never });
            }}
          />
        ) : (
          <span>{format.day(day)}.</span>
        )}
      </span>{' '}
      {columns.some(({ field }) => field === 'number') && (
        <span>
          {t('file.numbers')}{' '}
          {canChange ? (
            <PickWord
              pick={{
                name: 'numbers',
                label: t('file.numbers'),
                value: newNumbers ? 'new' : 'refused',
                options: [
                  { value: 'refused', label: t('file.refusedNumbers') },
                  { value: 'new', label: t('file.newNumbers') },
                ],
                onChange: (value) => acts.arrange.mutate({ newNumbers: value === 'new' }),
              }}
            />
          ) : (
            t(newNumbers ? 'file.newNumbers' : 'file.refusedNumbers')
          )}
          .
        </span>
      )}
      {of.format !== 'zip' && <AboutWhat of={of} acts={acts} canChange={canChange} />}
      {canChange && <SheetChoice of={of} acts={acts} />}
    </Step>
  );
};

// What its rows are about; said otherwise, it is read anew.
const AboutWhat = ({ of: { subject }, acts, canChange }: StepProps & { canChange: boolean }) => {
  const { t } = useTranslation('files');
  const subjects = useImportSubjects();
  const options = (subjects.data ?? []).map(({ name, label }) => ({ value: name, label }));
  const label = options.find(({ value }) => value === subject)?.label;
  if (!label) return null;
  return (
    <span>
      {t('file.about')}{' '}
      {canChange ? (
        <PickWord
          pick={{
            name: 'about',
            label: t('file.about'),
            value: subject,
            options,
            onChange: (next) => acts.arrange.mutate({ subject: next }),
          }}
        />
      ) : (
        label
      )}
      .
    </span>
  );
};

/** How far the work is; it goes on without the page. */
const Working = ({ of: { what, done, total } }: { of: NonNullable<ImportOut['work']> }) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  return (
    <div className="working" role="status">
      <p>
        ◷ {t(`working.${what}`)}
        {total > 0 && ` ${t('rowsDone', { done: format.number(done), total: format.number(total) })}`}
      </p>
      <Progress
        percent={total > 0 ? Math.floor((done / total) * 100) : 0}
        showInfo={false}
        size="small"
        aria-label={t(`working.${what}`)}
      />
      <p className="source">{t('goesOn')}</p>
    </div>
  );
};

const FIGURES = [
  ['new', 'moss'],
  ['changed', 'indigo'],
  ['same', 'soft'],
  ['refused', 'wrong'],
  ['left_out', 'soft'],
] as const;

// Asked for only: a file that is not of everybody is the usual case.
const Missing = ({ id, day }: { id: number; day: string }) => {
  const { t } = useTranslation('files');
  const format = useFormat();
  const to = useTo();
  const [isAsked, setAsked] = useState(false);
  const { data, error } = useMissing(id, isAsked);
  if (!isAsked)
    return (
      <button type="button" className="textact" onClick={() => setAsked(true)}>
        {t('check.missing')}
      </button>
    );
  if (error) return <Problems of={error} />;
  if (!data) return null;
  const said = { count: data.total, shown: format.number(data.total), day: format.day(day) };
  return (
    <div className="missing">
      <p>{data.total === 0 ? t('check.missingNone', said) : t('check.missingSaid', said)}</p>
      <ul className="resultrows">
        {data.things.map((one) => (
          <li key={one.id}>
            <span />
            {hasRecord(one.kind) ? (
              <Link className="serif" to={to(pathOf(one.kind, one.id))}>
                {one.name}
              </Link>
            ) : (
              <span>{one.name}</span>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
};

const CheckStep = ({ of, acts }: StepProps) => {
  const { id, counts, state, own, work } = of;
  const [open, setOpen] = useState<(typeof FIGURES)[number][0] | null>(null);
  const isOver = OVER.includes(state);
  const { t } = useTranslation('files');
  const format = useFormat();
  if (!counts) return null;
  return (
    <Step
      number={3}
      name={t('check.head')}
      look="done"
      act={
        own &&
        !isOver && (
          <button
            type="button"
            className="textact"
            disabled={work !== null}
            onClick={() => acts.check.mutate()}
          >
            {t('check.again')}
          </button>
        )
      }
    >
      <dl className="figures">
        <div>
          <dd className="figure n">{format.number(counts.read)}</dd>
          <dt>{t('check.read')}</dt>
        </div>
        {FIGURES.filter(([name]) => name !== 'left_out' || counts[name] > 0).map(([name, colour]) => (
          <div key={name}>
            <dd className={`figure n ${counts[name] > 0 ? colour : 'soft'}`}>
              {counts[name] > 0 && of.parts.length === 0 ? (
                <button
                  type="button"
                  className="figureopen"
                  aria-expanded={open === name}
                  aria-label={t('check.open', { what: t(`check.${name}`), count: counts[name] })}
                  onClick={() => setOpen(open === name ? null : name)}
                >
                  {format.number(counts[name])}
                </button>
              ) : (
                format.number(counts[name])
              )}
            </dd>
            <dt>
              {t(`check.${name}`)}
              <span className="source">{t(`check.${name}What`)}</span>
            </dt>
          </div>
        ))}
      </dl>
      {of.parts.length === 0 && <Missing id={id} day={of.day} />}
      {open && counts[open] > 0 && (
        <ImportRows
          id={id}
          status={open}
          onPutBack={
            open === 'left_out' && own && !isOver
              ? (row) => acts.leaveOut.mutate({ rows: [row], leftOut: false })
              : undefined
          }
        />
      )}
    </Step>
  );
};
