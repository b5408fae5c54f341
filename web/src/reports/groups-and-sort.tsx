import type { ReportFieldOut, ViewDefinition } from '@gremium/contract';
import { useWords } from '../texts/words';
import { Choice } from '../ui/field-input';
import { DayValue } from './condition-part';
import { reportWords } from './report-words';

type Props = {
  fields: readonly ReportFieldOut[];
  view: ViewDefinition;
  onChange: (part: Partial<ViewDefinition>) => void;
};

const MOST_GROUPS = 3;
const MOST_KEYS = 3;

/** By which fields rows stand together, one group within another, and in which order they stand. */
export const GroupsAndSort = ({ fields, view, onChange }: Props) => {
  const words = useWords(reportWords);
  const options = fields
    .filter(({ isSeveral }) => !isSeveral)
    .map(({ id, label, group }) => ({ value: id, label: `${label} · ${group}` }));
  const groups = [...view.groups, ...(view.groups.length < MOST_GROUPS ? [''] : [])];
  const order = [...view.order, ...(view.order.length < MOST_KEYS ? [{ field: '', down: false }] : [])];
  const setGroup = (at: number, field: string) =>
    onChange({ groups: put(view.groups, at, field).filter(Boolean) });
  const setKey = (at: number, field: string, down: boolean) =>
    onChange({ order: put(view.order, at, { field, down }).filter((one) => one.field !== '') });
  return (
    <>
      <section aria-label={words.groups}>
        <h2>{words.groups}</h2>
        {groups.map((field, i) => (
          <Choice
            key={`${i} ${field}`}
            id={`group-${i}`}
            label={i === 0 ? words.groupBy : `${words.groupBy} ${i + 1}`}
            options={options}
            value={field || null}
            onChange={(value) => setGroup(i, String(value ?? ''))}
          />
        ))}
      </section>
      <section aria-label={words.sort}>
        <h2>{words.sort}</h2>
        {order.map(({ field, down }, i) => (
          <div key={`${i} ${field}`} className="sortkey">
            <Choice
              id={`sort-${i}`}
              label={i === 0 ? words.sortBy : `${words.thenBy} ${i + 1}`}
              options={options}
              value={field || null}
              onChange={(value) => setKey(i, String(value ?? ''), down)}
            />
            {field && (
              <button type="button" className="textact" onClick={() => setKey(i, field, !down)}>
                {down ? words.descending : words.ascending}
              </button>
            )}
          </div>
        ))}
      </section>
      <PeriodPart period={view.period} onChange={(period) => onChange({ period })} />
    </>
  );
};

type PeriodProps = {
  period: ViewDefinition['period'];
  onChange: (period: ViewDefinition['period'] | undefined) => void;
};

const YEAR_BEFORE = { from: 'on-365', until: 'on' };

// What there is on the day looked at, or what began in a period, each as it was then.
const PeriodPart = ({ period, onChange }: PeriodProps) => {
  const words = useWords(reportWords);
  const day = (which: 'from' | 'until', label: string) => (
    <div className="periodday">
      <span className="soft">{label}</span>
      <DayValue
        at={which}
        label={label}
        value={{ day: period?.[which] ?? 'on' }}
        onValues={([value]) => {
          if (period && typeof value === 'object') onChange({ ...period, [which]: value.day });
        }}
      />
    </div>
  );
  return (
    <section aria-label={words.when}>
      <h2>{words.when}</h2>
      <Choice
        id="report-when"
        label={words.when}
        clearable={false}
        options={[
          { value: 'day', label: words.onDay },
          { value: 'period', label: words.inPeriod },
        ]}
        value={period ? 'period' : 'day'}
        onChange={(value) => onChange(value === 'period' ? YEAR_BEFORE : undefined)}
      />
      {period && (
        <>
          {day('from', words.periodFrom)}
          {day('until', words.periodUntil)}
        </>
      )}
    </section>
  );
};

const put = <T,>(all: readonly T[], at: number, one: T): T[] => {
  const changed = [...all];
  changed[at] = one;
  return changed;
};
