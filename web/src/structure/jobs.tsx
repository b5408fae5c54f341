import { fold } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { pathOf } from '../frame/record-paths';
import { useReferenceRegister } from '../time/time.queries';
import { labelIn } from '../ui/field-value';
import { type Item, RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Views } from '../ui/views';
import { JobRecord } from './job-record';

/** Jobs by family, and the record of one. */
export const Jobs = () => {
  const { t } = useTranslation();
  const { id } = useParams();
  const [params] = useSearchParams();
  const set = useSetParams();
  const search = params.get('search') ?? '';
  const items = useItems(search);
  return (
    <ListAndRecord
      title={t('view.jobs')}
      views={<Views of="structure" />}
      filters={{
        sentence: t('job.sentence'),
        picks: [],
        search: { value: search, label: t('job.search'), onChange: (text) => set({ search: text }) },
        count: t('job.listCount', { count: items.filter(({ path }) => path).length }),
      }}
      error={null}
      list={
        <RecordList
          label={t('view.jobs')}
          items={items}
          open={id ? pathOf('job', id) : ''}
          empty={t('job.none')}
        />
      }
      record={id ? <JobRecord key={id} id={Number(id)} /> : null}
      choose={t('job.choose')}
    />
  );
};

const useItems = (search: string): Item[] => {
  const { t, i18n } = useTranslation();
  const { on } = useLens();
  const to = useTo();
  const register = useReferenceRegister();
  const words = fold(search).split(' ');
  const jobs = [...(register?.allOn('job', on) ?? [])]
    .map(({ thing, values }) => ({
      thing,
      ...values,
      family: (register && labelIn(register, values.familyId, i18n.language)) || t('job.noFamily'),
    }))
    .filter(({ name, code }) => words.every((word) => fold(`${name} ${code}`).includes(word)))
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
      end: active ? null : t('job.retired'),
    }),
  );
};
