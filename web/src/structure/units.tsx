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
  const units = useUnitOptions('').slice(1);
  const items = units
    .filter(({ label }) => wanted.every((word) => fold(label).includes(word)))
    .map(({ value, label }): Item => ({
      key: value,
      path: pathOf('unit', value),
      to: to(pathOf('unit', value), search ? { search } : {}),
      name: label.trim(),
      indent: search ? 0 : (label.length - label.trimStart().length) / 2,
    }));
  return (
    <ListAndRecord
      title={pageName}
      views={<Views of="structure" />}
      filters={{
        sentence: words.sentence,
        picks: [],
        search: { value: search, label: words.search, onChange: (text) => set({ search: text }) },
        count: words.listed(items.length),
      }}
      error={null}
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
    />
  );
};
