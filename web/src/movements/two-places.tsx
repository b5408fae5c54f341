// The old place and the new one over the days of a transfer for a time: what is held, what is away or free, what stays.
import './two-places.css';
import type { Day, Moved } from '@gremium/contract';
import { addDays } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import type { SlipContext } from './slip-declared';

const en = {
  label: 'Both places over the days',
  away: (share: string) => `${share} held, away`,
  free: (share: string) => `${share} free for others`,
  stays: (share: string) => `${share} stays`,
  back: (share: string) => `back, ${share}`,
  there: (share: string) => `${share} there`,
  from: (day: string) => `from ${day}`,
};
const de: typeof en = {
  label: 'Beide Plätze über die Tage',
  away: (share) => `${share} gehalten, abwesend`,
  free: (share) => `${share} frei für andere`,
  stays: (share) => `${share} bleibt`,
  back: (share) => `zurück, ${share}`,
  there: (share) => `${share} dort`,
  from: (day) => `ab ${day}`,
};

const HEIGHT = 40;

type Part = { share: number; as: 'held' | 'away' | 'free' | 'plan'; said: string };

const shareOf = (hours: unknown, fullTime: unknown): number =>
  typeof hours === 'number' && typeof fullTime === 'number' && fullTime > 0
    ? Math.round((100 * hours) / fullTime)
    : 0;

/** Three stretches of days, both places one under the other; each share as a height. */
export const TwoPlaces = ({ moved, context }: { moved: Pick<Moved, 'slip'>; context: SlipContext }) => {
  const words = useWords({ en, de });
  const format = useFormat();
  const { t } = useTranslation();
  const of = (field: string) => moved.slip.find((one) => one.field === field);
  const { firstDay, lastDay, oldPlace } = context.input as {
    firstDay?: Day;
    lastDay?: Day;
    oldPlace?: string;
  };
  const [place, hours, full, lent] = ['positionId', 'hours', 'fullTime', 'lentHours'].map(of);
  if (!place || !hours || !full || !lent || !firstDay || !lastDay) return null;
  const held = shareOf(hours.before, full.before) - shareOf(lent.before, full.before);
  const away = shareOf(lent.after, full.before) - shareOf(lent.before, full.before);
  const there = shareOf(hours.after, full.after);
  const most = Math.max(100, held, there);
  const said = format.hundredths;
  const isFree = oldPlace === 'backfilled';
  const lines: { name: string | undefined; parts: Part[][] }[] = [
    {
      name: place.beforeName,
      parts: [
        [{ share: held, as: 'held', said: said(held) }],
        [
          { share: away, as: isFree ? 'free' : 'away', said: (isFree ? words.free : words.away)(said(away)) },
          ...(held > away
            ? [{ share: held - away, as: 'held' as const, said: words.stays(said(held - away)) }]
            : []),
        ],
        [{ share: held, as: 'held', said: words.back(said(held)) }],
      ],
    },
    {
      name: place.afterName,
      parts: [[], [{ share: there, as: 'plan', said: words.there(said(there)) }], []],
    },
  ];
  return (
    <figure className="twoplaces" aria-label={words.label}>
      <div className="days" aria-hidden>
        <span />
        <span>{t('slip.before')}</span>
        <span className="indigo">{words.from(format.day(firstDay))}</span>
        <span>{words.from(format.day(addDays(lastDay, 1)))}</span>
      </div>
      {lines.map(({ name, parts }, i) => (
        <div className="days" key={i}>
          <span className="serif">{name ?? '–'}</span>
          {parts.map((of, at) => (
            <span className="stretch" key={at} style={{ height: HEIGHT }}>
              {of.map((part) => (
                <span
                  key={part.as}
                  className={`part ${part.as}`}
                  style={{ height: Math.max(14, (HEIGHT * part.share) / most) }}
                >
                  {part.said}
                </span>
              ))}
            </span>
          ))}
        </div>
      ))}
    </figure>
  );
};
