import { fold } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { pathOf, useNameOfPage } from '../frame/pages';
import { useReferenceRegister } from '../time/time.queries';
import { labelIn } from '../ui/field-value';
import { type Item, RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { useWords } from '../texts/words';
import { Views } from '../ui/views';
import { jobWords } from './job-words';
import { JobRecord } from './job-record';

/** Jobs by family, and the record of one. */
export const Jobs = () => {
  const words = useWords(jobWords);
  const pageName = useNameOfPage('/structure/jobs');
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
      error={null}
      list={
        <RecordList label={pageName} items={items} open={id ? pathOf('job', id) : ''} empty={words.none} />
      }
      record={id ? <JobRecord key={id} id={Number(id)} /> : null}
      choose={words.choose}
    />
  );
};

const useItems = (search: string): Item[] => {
  const words = useWords(jobWords);
  const { i18n } = useTranslation();
  const { on } = useLens();
  const to = useTo();
  const register = useReferenceRegister();
  const wanted = fold(search).split(' ');
  const jobs = [...(register?.allOn('job', on) ?? [])]
    .map(({ thing, values }) => ({
      thing,
      ...values,
      family: (register && labelIn(register, values.familyId, i18n.language)) || words.noFamily,
    }))
    .filter(({ name, code }) => wanted.every((word) => fold(`${name} ${code}`).includes(word)))
    .sort((a, b) => a.family.localeCompare(b.family) || a.name.localeCompare(b.name));
  return grouped(
    jobs,
    ({ family }) => family,
    ({ thing, name, code, active }): Item => ({
      key: String(thing),
      path: pathOf('job', thing),
      to: to(pathOf('job', thing), search ? { search } : {}),
      name,
      about: code,
      end: active ? null : words.retired,
    }),
  );
};
