import './files.css';
import type { TakeOutLine, TakeOutPart, ViewDefinition } from '@gremium/contract';
import { Select } from 'antd';
import { useState } from 'react';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { Choice } from '../ui/field-input';
import { PlainTable } from '../ui/plain-table';
import { Problems, useSentence } from '../ui/problems';
import { Views } from '../ui/views';
import { useMay } from '../frame/session';
import { useImportSubjects } from './files.queries';
import { takeOutWords } from './take-out-words';
import { fileOf, useCancelTakeOut, useTakeOut, useTakeOuts } from './take-outs.queries';

/** What was taken out of the register, by whom and with what filter; and whole subjects taken out here. */
export const TakeOuts = () => {
  const words = useWords(takeOutWords);
  const may = useMay();
  return (
    <main className="sheet takeouts">
      <Views of="files" />
      <div className="takeoutbody">
        <h1>{words.head}</h1>
        {may.act('import') && <WholeSubjects />}
        <Lines />
      </div>
    </main>
  );
};

// People go as a file of people, everything else with the columns of its own.
const partOf = (subject: string, title: string, layout: 'import' | 'anew'): TakeOutPart => {
  const about = (subject === 'people' ? 'person_name' : subject) as ViewDefinition['subject'];
  const view = {
    subject: about,
    columns: [{ field: `${about}.inEffectFrom` }],
    condition: '',
    order: [],
    groups: [],
  };
  return { title, view, layout: subject === 'people' ? 'people' : layout };
};

const WholeSubjects = () => {
  const words = useWords(takeOutWords);
  const subjects = useImportSubjects();
  const takeOut = useTakeOut();
  const [chosen, setChosen] = useState<string[]>([]);
  const [layout, setLayout] = useState<'import' | 'anew'>('import');
  const all = subjects.data ?? [];
  const take = (format: 'csv' | 'xlsx') => {
    const parts = all
      .filter(({ name }) => chosen.includes(name))
      .map(({ name, label }) => partOf(name, label, layout));
    takeOut.mutate({ title: parts.length === 1 ? (parts[0]?.title ?? '') : words.title, parts, format });
  };
  return (
    <section className="wholesubjects" aria-label={words.register}>
      <h2>{words.register}</h2>
      <p>{words.lead}</p>
      <label htmlFor="take-out-subjects">
        <span className="soft">{words.what}</span>
        <Select<string[]>
          id="take-out-subjects"
          mode="multiple"
          variant="underlined"
          aria-label={words.choose}
          placeholder={words.choose}
          showSearch={{ optionFilterProp: 'label' }}
          value={chosen}
          options={all.map(({ name, label }) => ({ value: name, label }))}
          onChange={setChosen}
        />
      </label>
      <label htmlFor="take-out-layout">
        <span className="soft">{words.layout}</span>
        <Choice
          id="take-out-layout"
          label={words.layout}
          clearable={false}
          options={(['import', 'anew'] as const).map((name) => ({ value: name, label: words.layouts[name] }))}
          value={layout}
          onChange={(value) => setLayout(value as 'import' | 'anew')}
        />
      </label>
      <p className="takeout">
        {words.as}{' '}
        {(['xlsx', 'csv'] as const).map((format) => (
          <button
            key={format}
            type="button"
            className="textact"
            disabled={chosen.length === 0 || takeOut.isPending}
            onClick={() => take(format)}
          >
            {format.toUpperCase()}
          </button>
        ))}
      </p>
      <Problems of={subjects.error ?? takeOut.error} />
    </section>
  );
};

const Lines = () => {
  const words = useWords(takeOutWords);
  const format = useFormat();
  const { data, error, hasNextPage, fetchNextPage } = useTakeOuts();
  const lines = data?.pages.flatMap(({ takeOuts }) => takeOuts) ?? [];
  if (error) return <Problems of={error} />;
  if (data && lines.length === 0) return <p className="soft">{words.none}</p>;
  return (
    <>
      <PlainTable
        heads={[
          { label: words.when, isShort: true },
          { label: words.contents },
          { label: words.by },
          { label: words.rows, isNumber: true },
          { label: words.file },
        ]}
        rows={lines.map((line) => ({
          key: line.id,
          cells: [
            format.recently(line.at),
            <Contents key="what" of={line} />,
            line.by,
            line.rows === null ? '' : format.number(line.rows),
            <File key="file" of={line} />,
          ],
        }))}
      />
      {hasNextPage && (
        <button type="button" className="textact" onClick={() => void fetchNextPage()}>
          {words.more}
        </button>
      )}
    </>
  );
};

const Contents = ({ of }: { of: TakeOutLine }) => {
  const words = useWords(takeOutWords);
  const format = useFormat();
  const filters = of.parts.flatMap(({ filter }) => filter || []);
  return (
    <>
      {of.title} <span className="soft">{words.asOf(format.day(of.on), format.number(of.entry))}</span>
      {of.parts.length > 1 && <div className="source">{of.parts.map(({ title }) => title).join(', ')}</div>}
      {filters.length > 0 && (
        <div className="source">
          {words.filter}: {filters.join('; ')}
        </div>
      )}
      {of.sensitive.length > 0 && <div className="ochre">{words.sensitive(of.sensitive.join(', '))}</div>}
    </>
  );
};

const File = ({ of }: { of: TakeOutLine }) => {
  const words = useWords(takeOutWords);
  const format = useFormat();
  const sentence = useSentence();
  const cancel = useCancelTakeOut();
  const drop = (name: 'stop' | 'delete') => (
    <button
      type="button"
      className="textact"
      disabled={cancel.isPending}
      onClick={() => cancel.mutate(of.id)}
    >
      {words[name]}
    </button>
  );
  if (of.work)
    return (
      <span role="status">
        ◷ {words.working(format.number(of.work.done), format.number(of.work.total))} {of.own && drop('stop')}
      </span>
    );
  if (of.state !== 'ready' || !of.own)
    return (
      <>
        <span className={of.state === 'failed' ? 'wrong' : 'soft'}>{words.states[of.state]}</span>
        {of.trouble.map((problem) => (
          <div key={problem.code} className="problem">
            {sentence(problem)}
          </div>
        ))}
      </>
    );
  const size = format.size(of.bytes ?? 0);
  return (
    <>
      <a className="textact" href={fileOf(of.id)} download>
        {words.fetch(of.format.toUpperCase(), size)}
      </a>{' '}
      <span className="soft">{words.until(format.day(of.until))}</span> {drop('delete')}
    </>
  );
};
