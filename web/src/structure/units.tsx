import '../lists/lists.css';
import { fold } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { pathOf, useNameOfPage } from '../frame/pages';
import { type Item, RecordList } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { useWords } from '../texts/words';
import { Views } from '../ui/views';
import { unitWords } from './unit-words';
import { UnitRecord } from './unit-record';
import { useUnitOptions } from './unit-options';
import { useMatching } from '../reports/reports.queries';
import { ListFoot } from '../lists/list-foot';
import { ListTable } from '../lists/list-table';
import { type Listed, useListView } from '../lists/list-view';
import { WhereLine } from '../lists/where-line';

/** Units in the order of the tree, and the record of one. */
export const Units = () => {
  const words = useWords(unitWords);
  const { t } = useTranslation();
  const pageName = useNameOfPage('/structure/units');
  const { id } = useParams();
  const to = useTo();
  const [params] = useSearchParams();
  const set = useSetParams();
  const search = params.get('search') ?? '';
  const wanted = fold(search).split(' ');
  const list = useListView(listed, { narrowed: [], search, seen: null });
  const matching = useMatching(listed.subject, list.where);
  const units = useUnitOptions('').slice(1);
  const items = units
    .filter(({ value }) => matching.ids === null || matching.ids?.has(Number(value)))
    .filter(({ label }) => wanted.every((word) => fold(label).includes(word)))
    .map(({ value, label }): Item => ({
      key: value,
      path: pathOf('unit', value),
      to: to(pathOf('unit', value), list.kept),
      name: label.trim(),
      indent: search || list.where ? 0 : (label.length - label.trimStart().length) / 2,
    }));
  return (
    <ListAndRecord
      title={pageName}
      views={<Views of="structure" />}
      filters={{
        sentence: words.sentence,
        where: <WhereLine subject={listed.subject} where={list.where} onChange={list.setWhere} />,
        picks: [],
        search: { value: search, label: words.search, onChange: (text) => set({ search: text }) },
        count: words.listed(items.length),
      }}
      error={matching.error}
      list={
        <RecordList
          label={pageName}
          items={items}
          open={id ? pathOf('unit', id) : ''}
          empty={t('outline.empty')}
        />
      }
      record={id ? <UnitRecord key={id} id={Number(id)} /> : null}
      choose={words.choose}
      foot={<ListFoot listed={listed} list={list} />}
      wide={list.shape === 'table' && <ListTable list={list} />}
    />
  );
};

const listed: Listed = {
  subject: 'unit',
  path: '/structure/units',
  shapes: ['list', 'table'],
  searched: ['unit.name', 'unit.code'],
  columns: ['unit.name', 'unit.code', 'unit.kindId', 'unit.path', 'unit.headPositionId', 'unit.locationId'],
  order: 'unit.path',
  params: ['search'],
  open: { search: null },
};
