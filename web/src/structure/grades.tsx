import { type PickList, pickListOf } from '@gremium/contract';
import { fold } from '@gremium/core';
import { Suspense, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { useGo, useLens, useSetParams, useTo } from '../frame/lens';
import { pathOf, useNameOfPage } from '../frame/pages';
import { useMay } from '../frame/session';
import { useWords } from '../texts/words';
import { useReferenceRegister } from '../time/time.queries';
import { type Item, RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Views } from '../ui/views';
import { GradeRecord } from './grade-record';
import { gradeWords } from './grade-words';
import { lazily } from '../ui/lazily';

const AddEntry = lazily(async () => (await import('./add-entry')).AddEntry);

/** Grades by level, and the record of one. */
export const Grades = () => {
  const words = useWords(gradeWords);
  const pageName = useNameOfPage('/structure/grades');
  const { id } = useParams();
  const [params] = useSearchParams();
  const set = useSetParams();
  const search = params.get('search') ?? '';
  const items = useItems(search);
  return (
    <ListAndRecord
      title={pageName}
      views={<Views of="structure" />}
      filters={{
        sentence: words.sentence,
        picks: [],
        search: { value: search, label: words.search, onChange: (text) => set({ search: text }) },
        count: words.listed(items.filter(({ path }) => path).length),
      }}
      lead={<NewGrade />}
      error={null}
      list={
        <RecordList label={pageName} items={items} open={id ? pathOf('grade', id) : ''} empty={words.none} />
      }
      record={id ? <GradeRecord key={id} id={Number(id)} /> : null}
      choose={words.choose}
    />
  );
};

const NewGrade = () => {
  const words = useWords(gradeWords);
  const may = useMay();
  const go = useGo();
  const [isAdding, setAdding] = useState(false);
  const to = useTo();
  const steps = may.view('pay') && <Link to={to('/structure/steps')}>{words.toSteps}</Link>;
  if (!may.edit('grade') || !may.act('create')) return steps || null;
  return (
    <>
      {steps}
      {steps && ' · '}
      <button type="button" className="textact" onClick={() => setAdding(true)}>
        {words.add}
      </button>
      {isAdding && (
        <Suspense>
          <AddEntry
            list={pickListOf('grade') as PickList}
            label=""
            onAdded={(id) => {
              setAdding(false);
              go(pathOf('grade', id));
            }}
            onLeave={() => setAdding(false)}
          />
        </Suspense>
      )}
    </>
  );
};

const useItems = (search: string): Item[] => {
  const words = useWords(gradeWords);
  const { on } = useLens();
  const to = useTo();
  const register = useReferenceRegister();
  const wanted = fold(search).split(' ');
  const grades = [...(register?.allOn('grade', on) ?? [])]
    .map(({ thing, values }) => ({ thing, ...values }))
    .filter(({ name, code }) => wanted.every((word) => fold(`${name} ${code}`).includes(word)))
    .sort((a, b) => a.level - b.level || a.name.localeCompare(b.name));
  return grouped(
    grades,
    ({ level }) => words.level(level),
    ({ thing, name, code, steps }): Item => ({
      key: String(thing),
      path: pathOf('grade', thing),
      to: to(pathOf('grade', thing), search ? { search } : {}),
      name,
      about: code,
      end: words.steps(steps),
    }),
  );
};
