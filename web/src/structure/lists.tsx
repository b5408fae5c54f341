import { listGroups } from '@gremium/contract';
import { fold } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { useNameOfPage } from '../frame/pages';
import { useWords } from '../texts/words';
import { type Item, RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Views } from '../ui/views';
import { type ListOf, useListName, useLists } from './list-entries';
import { ListSheet } from './list-sheet';
import { listWords } from './list-words';

const pathOf = (id: string): string => `/setup/lists/${id}`;

/** The lists that forms pick from, by what they are about; what is still empty; and the entries of one. */
export const Lists = () => {
  const words = useWords(listWords);
  const { t } = useTranslation();
  const pageName = useNameOfPage('/setup/lists');
  const { list: open } = useParams();
  const [params] = useSearchParams();
  const set = useSetParams();
  const search = params.get('search') ?? '';
  const lists = useLists();
  const items = useItems(lists ?? [], search);
  const found = lists?.find(({ list }) => list.id === open);
  return (
    <ListAndRecord
      title={pageName}
      views={<Views of="setup" />}
      filters={{
        sentence: pageName,
        picks: [],
        search: { value: search, label: words.search, onChange: (text) => set({ search: text }) },
        count: lists ? setUp(lists, words) : t('waiting'),
      }}
      error={null}
      list={
        lists && (
          <RecordList label={pageName} items={items} open={open ? pathOf(open) : ''} empty={words.none} />
        )
      }
      record={found ? <ListSheet key={found.list.id} of={found} /> : null}
      choose={words.choose}
    />
  );
};

const isAsked = ({ list }: ListOf): boolean => list.asks !== undefined;
const setUp = (lists: readonly ListOf[], words: (typeof listWords)['en']): string => {
  const asked = lists.filter(isAsked);
  return words.setUp(asked.filter(({ entries }) => entries.length > 0).length, asked.length);
};

const useItems = (lists: readonly ListOf[], search: string): Item[] => {
  const words = useWords(listWords);
  const to = useTo();
  const nameOf = useListName();
  const wanted = fold(search).split(' ').filter(Boolean);
  const isMeant = ({ list, entries }: ListOf): boolean =>
    [nameOf(list), ...entries.map(({ name, code }) => `${name} ${code}`)].some((text) =>
      wanted.every((word) => fold(text).includes(word)),
    );
  const inOrder = listGroups.flatMap((group) =>
    lists.filter((one) => one.list.group === group && isMeant(one)),
  );
  return grouped(
    inOrder,
    ({ list }) => words.groups[list.group],
    ({ list, entries }): Item => ({
      key: list.id,
      path: pathOf(list.id),
      to: to(pathOf(list.id), search ? { search } : {}),
      name: nameOf(list),
      end:
        entries.length === 0 ? (
          <span className="ochre">{words.empty}</span>
        ) : (
          <span className="n soft">{entries.length}</span>
        ),
    }),
  );
};
