import './reports.css';
import { type ReportOut, type ViewDefinition, ledgers, notPlain } from '@gremium/contract';
import { Checkbox } from 'antd';
import { useEffect, useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { useLens, useSetParams } from '../frame/lens';
import { useMay } from '../frame/session';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Choice } from '../ui/field-input';
import { Problems } from '../ui/problems';
import { useTakeOut } from '../files/take-outs.queries';
import { Views } from '../ui/views';
import { later } from '../under-way';
import { ColumnOrder } from './column-order';
import { ConditionEditor } from './condition-editor';
import { decodeView, encodeView, freshView } from './definition';
import { FieldShelf } from './field-shelf';
import { GroupsAndSort } from './groups-and-sort';
import { Preview } from './preview';
import { reportWords } from './report-words';
import { SaveReport } from './save-report';
import { saveBlob, useReportFields, useReportRun, useShelf } from './reports.queries';

/** The builder of list reports: fields, their order, condition, groups, and what comes of it, live. */
export const ListReport = () => {
  const { id } = useParams();
  const shelf = useShelf();
  const kept = id ? shelf.data?.reports.find((one) => one.id === Number(id)) : undefined;
  if (id && shelf.isPending) return <main className="sheet" />;
  return <Build key={id ?? 'new'} kept={kept} />;
};

const ADDRESS_AFTER = 250;

// What is being built stands here at once, and in the address a moment later: a link reopens just what was seen.
const useView = (kept: ReportOut | undefined): [ViewDefinition, (view: ViewDefinition) => void, boolean] => {
  const [params] = useSearchParams();
  const set = useSetParams();
  const [view, setView] = useState<ViewDefinition>(
    () => decodeView(params.get('view')) ?? kept?.view ?? freshView('person_name'),
  );
  const isChanged = kept !== undefined && encodeView(kept.view) !== encodeView(view);
  useEffect(() => {
    return later(ADDRESS_AFTER, () => {
      set({ view: kept && !isChanged ? null : encodeView(view) });
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, kept, isChanged]);
  return [view, setView, isChanged];
};

const RUN_AFTER = 200;

// What is worked out is what stood still for a moment: typing never waits for it.
const useSettled = (view: ViewDefinition): ViewDefinition => {
  const [settled, setSettled] = useState(view);
  useEffect(() => {
    return later(RUN_AFTER, () => setSettled(view));
  }, [view]);
  return settled;
};

const PAGE = 100;

const Build = ({ kept }: { kept: ReportOut | undefined }) => {
  const words = useWords(reportWords);
  const may = useMay();
  const [view, setView, isChanged] = useView(kept);
  const [limit, setLimit] = useState(PAGE);
  const { data: known, error } = useReportFields(view.subject);
  const fields = known?.fields ?? [];
  const run = useReportRun(useSettled(view), limit);
  const takeOut = useTakeOut();
  const [isLayout, setLayout] = useState(false);
  // what is taken in again by a file of its own kind, or not at all, has no such layout
  const hasLayout = may.act('import') && notPlain(view.subject) === null && !ledgers.has(view.subject);
  const layout = !isLayout || !hasLayout ? 'view' : view.subject === 'person_name' ? 'people' : 'import';
  const title = kept?.name ?? words.fresh;
  const change = (part: Partial<ViewDefinition>) => setView({ ...view, ...part });
  return (
    <main className="sheet builder">
      <Views of="reports" />
      <header>
        <h1>{title}</h1>
        {isChanged && <span className="standing vacant">{words.unsaved}</span>}
        <span className="takeouts">
          {words.takeOut}{' '}
          {(['csv', 'xlsx'] as const).map((format) => (
            <button
              key={format}
              type="button"
              className="textact"
              disabled={takeOut.isPending}
              onClick={() => takeOut.mutate({ title, parts: [{ title, view, layout }], format })}
            >
              {format.toUpperCase()}
            </button>
          ))}
          {hasLayout && (
            <Checkbox checked={isLayout} onChange={(event) => setLayout(event.target.checked)}>
              {words.inLayout}
            </Checkbox>
          )}
          <button
            type="button"
            className="textact"
            onClick={() =>
              saveBlob(
                new Blob([JSON.stringify({ name: title, view }, null, 2)], { type: 'application/json' }),
                `${title}.json`,
              )
            }
          >
            {words.definition}
          </button>
        </span>
        <SaveReport kept={kept} view={view} />
      </header>
      <Problems of={error ?? takeOut.error} />
      <div className="builderbody">
        <div className="buildercolumn">
          <label htmlFor="report-subject">{words.subject}</label>
          <Choice
            id="report-subject"
            label={words.subject}
            clearable={false}
            options={(known?.subjects ?? []).map(({ name, label }) => ({ value: name, label }))}
            value={view.subject}
            onChange={(subject) => setView(freshView(String(subject)))}
          />
          <FieldShelf fields={fields} chosen={view.columns} onChange={(columns) => change({ columns })} />
        </div>
        <div className="buildercolumn">
          <ColumnOrder fields={fields} columns={view.columns} onChange={(columns) => change({ columns })} />
          <GroupsAndSort fields={fields} view={view} onChange={change} />
        </div>
        <div className="builderpreview">
          <ConditionEditor
            key={view.subject}
            fields={fields}
            subject={view.subject}
            text={view.condition}
            onChange={(condition) => change({ condition })}
          />
          <Problems of={run.error} />
          {run.data && <Counts of={run.data} />}
          {run.data && !run.error && (
            <Preview
              run={run.data}
              view={view}
              fields={fields}
              onMore={() => setLimit(Math.min(500, limit + PAGE))}
            />
          )}
        </div>
      </div>
    </main>
  );
};

const Counts = ({ of }: { of: { looked: number; matched: number; boundary: number; noValue: number } }) => {
  const words = useWords(reportWords);
  const format = useFormat();
  const { on, isToday } = useLens();
  return (
    <p className="counts" role="status">
      {words.matched(format.number(of.looked), format.number(of.matched))}
      {of.boundary > 0 && <span className="ochre">, {words.boundary(format.number(of.boundary))}</span>}
      {of.noValue > 0 && <span className="ochre">, {words.noValue(format.number(of.noValue))}</span>}
      {!isToday && <span className="indigo"> · {format.day(on)}</span>}
    </p>
  );
};
