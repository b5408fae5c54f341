import '../lists/lists.css';
import type { Values } from '@gremium/contract';
import { fold } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { pathOf, useNameOfPage } from '../frame/pages';
import { useMay, useSession } from '../frame/session';
import { useStart } from '../movements/acts';
import { useReferenceRegister } from '../time/time.queries';
import { labelIn } from '../ui/field-value';
import { type Item, RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { type Pick, PickWord } from '../ui/sentence';
import { useWords } from '../texts/words';
import { Views } from '../ui/views';
import { jobWords } from './job-words';
import { JobRecord } from './job-record';
import { useMatching } from '../reports/reports.queries';
import { ListFoot } from '../lists/list-foot';
import { ListTable } from '../lists/list-table';
import { type Listed, useListView } from '../lists/list-view';
import { WhereLine } from '../lists/where-line';

/** Jobs by family, and the record of one. */
export const Jobs = () => {
  const words = useWords(jobWords);
  const pageName = useNameOfPage('/structure/jobs');
  const { id } = useParams();
  const [params] = useSearchParams();
  const set = useSetParams();
  const search = params.get('search') ?? '';
  const shown = (params.get('shown') ?? 'active') as Shown;
  const list = useListView(listed, { narrowed: [CONDITIONS[shown]], search, seen: null });
  const matching = useMatching(listed.subject, list.where);
  const items = useItems(search, shown, { ids: matching.ids, kept: list.kept });
  const pick: Pick = {
    name: 'shown',
    label: words.shown,
    value: shown,
    options: SHOWN.map((value) => ({ value, label: words.show[value] })),
    onChange: (value) => set({ shown: value === 'active' ? null : value }),
  };
  return (
    <ListAndRecord
      title={pageName}
      views={<Views of="structure" />}
      filters={{
        sentence: (
          <>
            {words.sentence} <PickWord pick={pick} />
          </>
        ),
        where: <WhereLine subject={listed.subject} where={list.where} onChange={list.setWhere} />,
        picks: [pick],
        search: { value: search, label: words.search, onChange: (text) => set({ search: text }) },
        count: words.listed(items.filter(({ path }) => path).length),
      }}
      lead={<NewJob />}
      error={matching.error}
      list={
        <RecordList label={pageName} items={items} open={id ? pathOf('job', id) : ''} empty={words.none} />
      }
      record={id ? <JobRecord key={id} id={Number(id)} /> : null}
      choose={words.choose}
      foot={<ListFoot listed={listed} list={list} />}
      wide={list.shape === 'table' && <ListTable list={list} />}
    />
  );
};

const listed: Listed = {
  subject: 'job',
  path: '/structure/jobs',
  shapes: ['list', 'table'],
  searched: ['job.name', 'job.code'],
  columns: [
    'job.name',
    'job.code',
    'job.familyId',
    'job.gradeId',
    'job.workerTypeId',
    'job.hours',
    'job.fte',
  ],
  order: 'job.familyId,job.name',
  params: ['shown', 'search'],
  open: { shown: 'any', search: null },
};

const SHOWN = ['active', 'pattern', 'retired', 'any'] as const;
type Shown = (typeof SHOWN)[number];

const CONDITIONS: Record<Shown, string> = {
  active: 'job.active == true && (job.pattern != true || blank(job.pattern))',
  pattern: 'job.pattern == true',
  retired: 'job.active == false && (job.pattern != true || blank(job.pattern))',
  any: '',
};

const fits = (shown: Shown, { active, pattern }: Values<'job'>): boolean => {
  if (shown === 'any') return true;
  if (shown === 'pattern') return pattern === true;
  return pattern !== true && active === (shown === 'active');
};

const NewJob = () => {
  const words = useWords(jobWords);
  const may = useMay();
  const start = useStart();
  const { organisationId } = useSession();
  if (!may.edit('job') || organisationId === null) return null;
  return (
    <button
      type="button"
      className="textact"
      onClick={() => start('new_job', { kind: 'organisation', id: organisationId, name: '' }, {})}
    >
      {words.add}
    </button>
  );
};

type Narrowed = { ids: ReadonlySet<number> | null | undefined; kept: Record<string, string> };

const useItems = (search: string, shown: Shown, { ids, kept }: Narrowed): Item[] => {
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
    .filter((job) => fits(shown, job) && (ids === null || ids?.has(job.thing)))
    .filter(({ name, code }) => wanted.every((word) => fold(`${name} ${code}`).includes(word)))
    .sort((a, b) => a.family.localeCompare(b.family) || a.name.localeCompare(b.name));
  return grouped(
    jobs,
    ({ family }) => family,
    ({ thing, name, code, active, pattern }): Item => ({
      key: String(thing),
      path: pathOf('job', thing),
      to: to(pathOf('job', thing), kept),
      name,
      about: code,
      end: pattern ? words.pattern : active ? null : words.retired,
    }),
  );
};
