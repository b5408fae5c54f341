import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useSetParams, useTo } from '../frame/lens';
import { useFormat } from '../texts/format';
import { Monogram } from '../ui/monogram';
import { Problems } from '../ui/problems';
import { useLabel } from './use-label';
import { type Asked, type CrossOut, PEOPLE, type WhyOut, useFileAddress, useWhy } from './measures.queries';
import { TakeOut } from './take-out';
import { useCells } from './use-cells';

type WhyProps = { asked: Asked; cell: { key: string; month: string }; table: CrossOut | undefined };

/** One figure opened: how it is made, its inputs by month, the people behind it. */
export const Why = ({ asked, cell, table }: WhyProps) => {
  const { t } = useTranslation('reports');
  const { t: texts } = useTranslation();
  const format = useFormat();
  const set = useSetParams();
  const language = useLabel();
  const why = useWhy(asked, cell);
  const data = why.data?.pages[0];
  const address = useFileAddress(asked, cell);
  const row = table?.rows.find(({ key }) => (key === null ? '-' : String(key)) === cell.key);
  const label = data?.label ?? row?.label;
  const name =
    cell.key === 'all' || asked.by === 'whole'
      ? t('all')
      : label && language(label)
        ? language(label)
        : t('none');
  return (
    <aside className="why" aria-label={t('why.head')} aria-busy={why.isPlaceholderData}>
      <header>
        <span className="kind">
          <span>{t('why.head')}</span>
          <button type="button" className="textact" onClick={() => set({ cell: null })}>
            {t('why.close')}
          </button>
        </span>
        <h2>{t('why.title', { row: name, month: format.month(cell.month) })}</h2>
      </header>
      <Problems of={why.error} />
      {why.isPending && <p>{texts('waiting')}</p>}
      {data && (
        <div className="whybody">
          <Formula asked={asked} why={data} />
          <Months asked={asked} why={data} />
          <People
            asked={asked}
            total={data.total}
            people={why.data?.pages.flatMap(({ people }) => people) ?? []}
            address={address}
          />
          <More of={why} total={data.total} />
        </div>
      )}
    </aside>
  );
};

const textKeys = {
  turnover: 'why.textTurnover',
  headcount: 'why.textHeadcount',
  fte: 'why.textFte',
  fteAtWork: 'why.textFteAtWork',
  joiners: 'why.textJoiners',
  leavers: 'why.textLeavers',
} as const;

const Formula = ({ asked, why }: { asked: Asked; why: WhyOut }) => {
  const { t } = useTranslation('reports');
  const format = useFormat();
  const { value, isRate } = useCells(asked);
  const [first, last] = [why.months[0], why.months.at(-1)];
  const there = why.months.filter(({ close }) => close !== null).length;
  const average = format.decimal((why.average ?? 0).toFixed(1));
  return (
    <>
      <div className="formula">
        <span className="big">
          {why.isKnown ? value(why.value) : ''}
          {isRate && why.value !== null && ' %'}
        </span>
        {isRate && first && last && (
          <span className="fraction">
            <span>
              {t('why.leavers', {
                count: why.leavers,
                from: format.month(first.month, 'year'),
                until: format.month(last.month, 'year'),
              })}
            </span>
            <span>
              {there < 12 ? t('why.averageOf', { average, closes: there }) : t('why.average', { average })}
            </span>
          </span>
        )}
      </div>
      <p className="soft">
        {!why.isKnown && <>{t('why.blank')} </>}
        {why.isKnown && why.value === null && <>{t('why.nobody')} </>}
        {why.isCut && <>{t('why.soFar', { day: format.day(why.end) })} </>}
        {t(textKeys[asked.measure], { day: format.day(why.end) })}
      </p>
    </>
  );
};

const Months = ({ asked, why }: { asked: Asked; why: WhyOut }) => {
  const { t } = useTranslation('reports');
  const format = useFormat();
  const { isRate } = useCells(asked);
  const most = Math.max(1, ...why.months.map(({ leavers }) => leavers));
  const sum = (field: 'leavers' | 'joiners') => why.months.reduce((all, month) => all + month[field], 0);
  return (
    <>
      <h3>{t('why.months')}</h3>
      <table className="whymonths">
        <thead>
          <tr>
            <th scope="col">{t('why.month')}</th>
            <th scope="col" className="r">
              {t('why.atClose')}
            </th>
            {!isRate && (
              <th scope="col" className="r">
                {t('why.joinersHead')}
              </th>
            )}
            <th scope="col" className="r">
              {t('why.leaversHead')}
            </th>
            {isRate && <td />}
          </tr>
        </thead>
        <tbody>
          {why.months.map(({ month, close, joiners, leavers }) => (
            <tr key={month}>
              <th scope="row">{format.month(month, 'year')}</th>
              <td className="r">{close === null ? t('why.notThere') : format.number(close)}</td>
              {!isRate && <td className="r">{format.number(joiners)}</td>}
              <td className="r">{format.number(leavers)}</td>
              {isRate && (
                <td className="barcell">
                  <span className="bar" style={{ width: `${(leavers / most) * 46}px` }} />
                </td>
              )}
            </tr>
          ))}
        </tbody>
        {isRate && (
          <tfoot>
            <tr>
              <th scope="row">{t('why.sum')}</th>
              <td className="r">{format.decimal((why.average ?? 0).toFixed(1))}</td>
              <td className="r">{format.number(sum('leavers'))}</td>
              <td />
            </tr>
          </tfoot>
        )}
      </table>
    </>
  );
};

type PeopleProps = {
  asked: Asked;
  people: WhyOut['people'];
  total: number;
  address: (format: 'csv' | 'xlsx') => string;
};

const People = ({ asked, people, total, address }: PeopleProps) => {
  const { t } = useTranslation('reports');
  const format = useFormat();
  const to = useTo();
  const { isFte } = useCells(asked);
  return (
    <>
      <h3 className="peoplehead">
        <span>{t('why.people')}</span>
        <span className="soft">
          {t('why.count', { count: total })}
          {people.length < total && <>, {t('why.first', { count: people.length })}</>}
        </span>
        {total > 0 && <TakeOut address={address} of={t('why.people')} />}
      </h3>
      <ul className="whypeople">
        {people.map((person, i) => (
          <li key={`${person.personId} ${i}`}>
            <Monogram name={person.name} size={26} />
            <span>
              <Link className="name" to={to(`/people/${person.personId}`)}>
                {person.name}
              </Link>
              <span className="soft">{[person.title, person.place].filter(Boolean).join(', ')}</span>
            </span>
            <span className="soft r">
              {person.day && <span>{format.day(person.day)}</span>}
              {person.class && <span>{t(`classes.${person.class}`)}</span>}
              {isFte && person.fte !== null && <span>{format.hundredths(person.fte)}</span>}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
};

const More = ({ of, total }: { of: ReturnType<typeof useWhy>; total: number }) => {
  const { t } = useTranslation('reports');
  const { t: texts } = useTranslation();
  if (!of.hasNextPage) return null;
  const shown = of.data?.pages.reduce((sum, page) => sum + page.people.length, 0) ?? 0;
  return (
    <button
      type="button"
      className="textact more"
      disabled={of.isFetchingNextPage}
      onClick={() => void of.fetchNextPage()}
    >
      {of.isFetchingNextPage ? texts('waiting') : t('why.next', { count: Math.min(PEOPLE, total - shown) })}
    </button>
  );
};
