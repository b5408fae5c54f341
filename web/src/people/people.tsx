import type { Day, PersonLine } from '@gremium/contract';
import { daysBetween } from '@gremium/core';
import { useCallback, useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { useLens, useSetParams, useTo } from '../frame/lens';
import { keptMovements } from '../movements/kept-movements';
import { pathOf } from '../frame/pages';
import { sectionDrafts } from '../time/section-drafts';
import { useUnitOptions } from '../structure/unit-options';
import { useReferenceRegister } from '../time/time.queries';
import { type Item, RecordList, grouped } from '../ui/list';
import { ListAndRecord } from '../ui/list-and-record';
import { Monogram } from '../ui/monogram';
import { type Pick, PickWord } from '../ui/sentence';
import { useCountSaid, useCountedTypes } from './counted';
import { STATUSES, type StatusAsked, usePeople } from './people.queries';
import { PersonRecord } from './person-record';
import { useAllKept } from '../time/kept';

/** People of a day, found by any part of the name, and the record of one. */
export const People = () => {
  const { t } = useTranslation();
  const { id } = useParams();
  const { on } = useLens();
  const [params] = useSearchParams();
  const set = useSetParams();
  const asked = {
    search: params.get('search') ?? '',
    status: (params.get('status') ?? 'here') as StatusAsked,
    branch: Number(params.get('in')) || undefined,
    itself: params.has('itself'),
    location: Number(params.get('place')) || undefined,
  };
  const people = usePeople(asked);
  const units = useUnitOptions(t('filter.wholeOrganisation'));
  const places = usePlaceOptions(on);
  const lines = useMemo(() => people.data?.pages.flatMap((page) => page.people) ?? [], [people.data]);
  const total = people.data?.pages[0]?.total ?? 0;
  const counted = useCountedTypes();
  const said = useCountSaid(asked.status, { total, notCounted: people.data?.pages[0]?.notCounted ?? 0 });
  const picks: [Pick, Pick, Pick] = [
    {
      name: 'status',
      label: t('people.status'),
      value: asked.status,
      options: STATUSES.map((value) => ({ value, label: t(`people.which.${value}`, { types: counted }) })),
      onChange: (value) => set({ status: value === 'here' ? null : value }),
    },
    {
      name: 'in',
      label: t('outline.unit'),
      value: params.get('in') ?? '',
      options: units,
      onChange: (value) => set({ in: value, itself: null }),
    },
    {
      name: 'place',
      label: t('people.location'),
      value: params.get('place') ?? '',
      options: places,
      onChange: (value) => set({ place: value }),
    },
  ];
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = people;
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  return (
    <ListAndRecord
      title={t('divider.people')}
      filters={{
        sentence: (
          <>
            <PickWord pick={picks[0]} /> {t('people.sentence')} <PickWord pick={picks[1]} />{' '}
            {asked.itself && `${t('people.itself')} `}
            {t('filter.at')} <PickWord pick={picks[2]} />
          </>
        ),
        picks,
        search: {
          value: asked.search,
          label: t('people.search'),
          onChange: (text) => set({ search: text }),
        },
        count: people.isPending ? t('people.waiting') : said,
      }}
      error={people.error}
      list={
        !people.isPending && (
          <Lines
            lines={lines}
            open={id ? pathOf('person', id) : ''}
            onEnd={more}
            isSearch={asked.search !== ''}
          />
        )
      }
      record={id ? <PersonRecord key={id} id={Number(id)} /> : null}
      choose={t('people.choose')}
    />
  );
};

const usePlaceOptions = (on: string) => {
  const { t } = useTranslation();
  const register = useReferenceRegister();
  return useMemo(
    () => [
      { value: '', label: t('filter.anyPlace') },
      ...[...(register?.allOn('location', on as never) ?? [])]
        .map(({ thing, values }) => ({ value: String(thing), label: values.name }))
        .sort((a, b) => a.label.localeCompare(b.label)),
    ],
    [register, on, t],
  );
};

type LinesProps = { lines: PersonLine[]; open: string; onEnd: () => void; isSearch: boolean };

const Lines = ({ lines, open, onEnd, isSearch }: LinesProps) => {
  const { t } = useTranslation();
  const to = useTo();
  const [params] = useSearchParams();
  const { on } = useLens();
  const drafts = useAllKept(sectionDrafts);
  const movements = useAllKept(keptMovements);
  const items = useMemo(() => {
    const kept = Object.fromEntries(
      ['in', 'itself', 'status', 'place', 'search'].flatMap((name) =>
        params.has(name) ? [[name, params.get(name)]] : [],
      ),
    ) as Record<string, string>;
    const written = new Set([...(drafts ?? []), ...(movements ?? [])].map(({ about }) => about));
    const endOf = ({ id, status, since }: PersonLine): React.ReactNode => {
      if (written.has(`person ${id}`)) return <span className="ochre">{t('draft.word')}</span>;
      if (status === 'coming' && since) {
        const days = daysBetween(on, since as Day);
        return <span className="indigo">{t('people.inDays', { count: days })}</span>;
      }
      return status === 'at_work' ? null : t(`status.${status}`);
    };
    return grouped(
      lines,
      ({ sort }) => [...sort][0]?.toUpperCase() ?? '',
      (line): Item => ({
        key: String(line.id),
        path: pathOf('person', line.id),
        to: to(pathOf('person', line.id), kept),
        mark: <Monogram name={line.name} />,
        name: line.name,
        about: [line.title, line.unit].filter(Boolean).join(', '),
        end: endOf(line),
      }),
    );
  }, [lines, params, drafts, movements, t, to, on]);
  return (
    <RecordList
      label={t('divider.people')}
      items={items}
      open={open}
      onEnd={onEnd}
      empty={t(isSearch ? 'people.none' : 'people.noneHere')}
    />
  );
};
