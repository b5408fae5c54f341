// Movements: what is late, to be said, waiting, in preparation, recorded; and the sheet of the one that is open.
import {
  type MovementKind,
  type MovementLine,
  type MovementStanding,
  movementKinds,
  movementOf,
  onTheirWayEndpoints,
} from '@gremium/contract';
import { daysBetween } from '@gremium/core';
import { useInfiniteQuery } from '@tanstack/react-query';
import './movement-sheet.css';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { call } from '../api';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { useNameOfPage } from '../frame/pages';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { ListAndRecord } from '../ui/list-and-record';
import { type Item, RecordList } from '../ui/list';
import { PickWord } from '../ui/sentence';
import { de, en } from './movement-words';
import { MovementSheet } from './movement-sheet';

// Late ones first, what is over last.
const ORDER: readonly MovementStanding[] = [
  'late',
  'to_say',
  'conditions_open',
  'preparation',
  'recorded',
  'undone',
];
const AT = new Map(ORDER.map((standing, i) => [standing, i]));

// What is to be said so soon is named on its line.
const SOON_DAYS = 14;

const KEY = 'movement-sheets';

// What a kind is called in the language of the user.
const useKindName = () => {
  const { i18n } = useTranslation();
  return (kind: MovementKind): string => movementOf(kind).name[i18n.language === 'de' ? 'de' : 'en'];
};

const useLines = (kind: string, text: string) =>
  useInfiniteQuery({
    queryKey: [KEY, 'lines', kind, text],
    queryFn: ({ pageParam }) =>
      call(onTheirWayEndpoints.movementLines, {
        query: { ...(kind ? { kind: kind as MovementKind } : {}), text, offset: pageParam },
      }),
    initialPageParam: 0,
    getNextPageParam: (last, all) => (last.more ? all.length * 100 : undefined),
  });

/** All movements that the user may see, by how far they are. */
export const MovementsPage = () => {
  const words = useWords({ en, de });
  const { t } = useTranslation();
  const { id } = useParams();
  const name = useNameOfPage('/movements');
  const [params] = useSearchParams();
  const set = useSetParams();
  const kindName = useKindName();
  const [kind, text] = [params.get('kind') ?? '', params.get('text') ?? ''];
  const found = useLines(kind, text);
  const lines = useMemo(() => {
    const all = found.data?.pages.flatMap((page) => page.lines) ?? [];
    return [...new Map(all.map((line) => [line.id, line])).values()];
  }, [found.data]);
  const items = useItems(lines);
  const kinds = [
    { value: '', label: words.all },
    ...movementKinds.map((value) => ({ value, label: kindName(value) })),
  ];
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = found;
  return (
    <ListAndRecord
      title={name}
      filters={{
        sentence: (
          <PickWord
            pick={{
              name: 'kind',
              label: words.kind,
              value: kind,
              options: kinds,
              onChange: (value) => set({ kind: value || null }),
            }}
          />
        ),
        picks: [],
        search: { value: text, label: words.search, onChange: (value) => set({ text: value || null }) },
        count: found.isPending ? t('waiting') : words.count(lines.length),
      }}
      error={found.error}
      list={
        !found.isPending && (
          <RecordList
            label={name}
            items={items}
            open={id ? `/movements/${id}` : ''}
            onEnd={() => {
              if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
            }}
            empty={kind || text ? words.none : words.empty}
          />
        )
      }
      record={id ? <MovementSheet key={id} id={Number(id)} /> : null}
      choose={words.choose}
    />
  );
};

const useItems = (lines: readonly MovementLine[]): Item[] => {
  const words = useWords({ en, de });
  const format = useFormat();
  const to = useTo();
  const kindName = useKindName();
  const { today } = useLens();
  const [params] = useSearchParams();
  const kept = Object.fromEntries(
    ['kind', 'text'].flatMap((name) => (params.get(name) ? [[name, params.get(name)]] : [])),
  ) as Record<string, string>;
  const endOf = ({ standing, open, conditions }: MovementLine) => {
    const first = open[0];
    if (standing === 'conditions_open')
      return <span className="soft">{words.metOf(conditions.met, conditions.all)}</span>;
    if (!first || (standing !== 'late' && standing !== 'to_say')) return null;
    const days = daysBetween(today, first.planned);
    return days < 0 ? (
      <span className="brick">! {words.days(-days)}</span>
    ) : (
      <span className="indigo">{words.inDays(days)}</span>
    );
  };
  const items: Item[] = [];
  const sorted = [...lines].sort(
    (a, b) =>
      (AT.get(a.standing) ?? 0) - (AT.get(b.standing) ?? 0) ||
      (dueOf(a) < dueOf(b) ? -1 : dueOf(a) > dueOf(b) ? 1 : 0),
  );
  for (const [i, line] of sorted.entries()) {
    if (sorted[i - 1]?.standing !== line.standing) {
      const count = sorted.filter(({ standing }) => standing === line.standing).length;
      items.push({ key: line.standing, name: '', group: `${words.standings[line.standing]} · ${count}` });
    }
    const path = `/movements/${line.id}`;
    const isDue = line.standing === 'late' || line.standing === 'to_say';
    const said = line.open
      .filter(({ planned }) => isDue && daysBetween(today, planned) <= SOON_DAYS)
      .map(({ what }) => words.sayings[what].toLowerCase())
      .join(', ');
    items.push({
      key: String(line.id),
      path,
      to: to(path, kept),
      mark: <span className={`mark howfar ${line.standing}`} aria-hidden />,
      name: [line.whom, line.about?.name ?? words.hidden].filter(Boolean).join(', '),
      about: [
        kindName(line.kind),
        line.day && format.day(line.day),
        said || (line.isMine ? words.mine : words.by(line.requester)),
      ]
        .filter(Boolean)
        .join(' · '),
      end: endOf(line),
    });
  }
  return items;
};

// What is to be said by its day; all else keeps the order it came in.
const dueOf = ({ standing, open }: MovementLine): string =>
  standing === 'late' || standing === 'to_say' ? (open[0]?.planned ?? '') : '';
