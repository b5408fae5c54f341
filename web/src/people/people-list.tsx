import { type Session, peopleEndpoints } from '@gremium/contract';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { Button, DatePicker, Input } from 'antd';
import dayjs from 'dayjs';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { call } from '../api';
import type { Mode } from '../tokens';
import { Monogram } from '../ui/monogram';
import { Problems } from '../ui/problems';

const PAGE = 100;

/** People on a day; day and search stand in the address. */
export const PeopleList = ({ session, mode }: { session: Session; mode: Mode }) => {
  const { t, i18n } = useTranslation();
  const [params, setParams] = useSearchParams();
  const on = params.get('on') ?? session.today;
  const search = params.get('search') ?? '';
  const set = (name: string, value: string | null) =>
    setParams(
      (old) => {
        if (value) old.set(name, value);
        else old.delete(name);
        return old;
      },
      { replace: true },
    );
  const people = useInfiniteQuery({
    queryKey: ['people', on, search],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      call(peopleEndpoints.people, {
        query: {
          on: on as typeof session.today,
          search: search || undefined,
          limit: PAGE,
          offset: pageParam,
        },
      }),
    getNextPageParam: (last, pages) => (pages.length * PAGE < last.total ? pages.length * PAGE : undefined),
    placeholderData: keepPreviousData,
  });
  const pages = people.data?.pages ?? [];
  const lines = pages.flatMap((page) => page.people);
  const total = pages[0]?.total ?? 0;
  const shownDay = new Intl.DateTimeFormat(i18n.language === 'en' ? 'en-GB' : i18n.language, {
    dateStyle: 'long',
    timeZone: 'UTC',
  }).format(new Date(`${on}T00:00:00Z`));
  return (
    <main className="people">
      <div className="head">
        <h1>{t('people.title')}</h1>
        <label htmlFor="search">
          {t('people.search')}
          <Input
            id="search"
            variant="underlined"
            allowClear
            value={search}
            onChange={(event) => set('search', event.target.value)}
            style={{ width: 260 }}
          />
        </label>
        <label htmlFor="on">
          {t('people.on')}
          <DatePicker
            id="on"
            variant="underlined"
            allowClear={false}
            format="D MMM YYYY"
            value={dayjs(on)}
            onChange={(day: dayjs.Dayjs | null) =>
              set('on', day && day.format('YYYY-MM-DD') !== session.today ? day.format('YYYY-MM-DD') : null)
            }
          />
        </label>
      </div>
      <p className="line">
        <span>
          {people.isPending
            ? t('people.waiting')
            : t('people.count', { count: total, shown: new Intl.NumberFormat(i18n.language).format(total) })}
        </span>
        {on !== session.today && (
          <span className="otherday">
            {t('people.otherDay', { day: shownDay })}{' '}
            <Button type="link" size="small" onClick={() => set('on', null)}>
              {t('people.backToToday')}
            </Button>
          </span>
        )}
      </p>
      <Problems of={people.error} />
      {lines.length === 0 && people.isSuccess ? (
        <div className="empty">{search ? t('people.none') : t('people.noneHere')}</div>
      ) : (
        <table className="register">
          <thead>
            <tr>
              <th>{t('people.name')}</th>
              <th>{t('people.number')}</th>
              <th>{t('people.position')}</th>
              <th>{t('people.unit')}</th>
              <th>{t('people.location')}</th>
              <th>{t('people.status')}</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((person) => (
              <tr key={person.id}>
                <td className="who">
                  <Monogram name={person.name} mode={mode} />
                  {person.name}
                </td>
                <td>{person.number}</td>
                <td>{person.title}</td>
                <td>{person.unit}</td>
                <td>{person.location}</td>
                <td>{t(`status.${person.status}`)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {people.hasNextPage && (
        <Button
          style={{ marginTop: 12 }}
          loading={people.isFetchingNextPage}
          onClick={() => void people.fetchNextPage()}
        >
          {t('people.more')}
        </Button>
      )}
    </main>
  );
};
