import { fold } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { pathOf } from '../frame/record-paths';
import { type Item, RecordList } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Views } from '../ui/views';
import { UnitRecord } from './unit-record';
import { useUnitOptions } from './unit-options';

/** Units in the order of the tree, and the record of one. */
export const Units = () => {
  const { t } = useTranslation();
  const { id } = useParams();
  const to = useTo();
  const [params] = useSearchParams();
  const set = useSetParams();
  const search = params.get('search') ?? '';
  const words = fold(search).split(' ');
  const units = useUnitOptions('').slice(1);
  const items = units
    .filter(({ label }) => words.every((word) => fold(label).includes(word)))
    .map(({ value, label }): Item => ({
      key: value,
      path: pathOf('unit', value),
      to: to(pathOf('unit', value), search ? { search } : {}),
      name: label.trim(),
      indent: search ? 0 : (label.length - label.trimStart().length) / 2,
    }));
  return (
    <ListAndRecord
      title={t('view.units')}
      views={<Views of="structure" />}
      filters={{
        sentence: t('unit.sentence'),
        picks: [],
        search: { value: search, label: t('unit.search'), onChange: (text) => set({ search: text }) },
        count: t('unit.listCount', { count: items.length }),
      }}
      error={null}
      list={
        <RecordList
          label={t('view.units')}
          items={items}
          open={id ? pathOf('unit', id) : ''}
          empty={t('outline.empty')}
        />
      }
      record={id ? <UnitRecord key={id} id={Number(id)} /> : null}
      choose={t('unit.choose')}
    />
  );
};
