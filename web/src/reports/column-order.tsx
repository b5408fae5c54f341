import type { ReportFieldOut, TotalName, ViewColumn } from '@gremium/contract';
import { useWords } from '../texts/words';
import { Choice } from '../ui/field-input';
import { useDragging } from '../ui/use-dragging';
import { byId } from './definition';
import { reportWords } from './report-words';

type OrderProps = {
  fields: readonly ReportFieldOut[];
  columns: readonly ViewColumn[];
  onChange: (columns: ViewColumn[]) => void;
  /** Without totals: a list has none. */
  isPlain?: boolean;
};

const isNumeric = ({ kind }: ReportFieldOut): boolean =>
  kind === 'number' || kind === 'hundredths' || kind === 'exact';

/** The columns in their order: dragged, or moved by the acts beside each; with a total, and what is told of several rows. */
export const ColumnOrder = ({ fields, columns, onChange, isPlain = false }: OrderProps) => {
  const words = useWords(reportWords);
  const known = byId(fields);
  const nameOf = ({ field, label }: ViewColumn) => label ?? known.get(field)?.label ?? field;
  const move = (from: number, to: number) => {
    const moved = [...columns];
    const [one] = moved.splice(from, 1);
    if (one) moved.splice(to, 0, one);
    onChange(moved);
  };
  const { handlers, over } = useDragging<{ id: number; name: string }>({
    mayTake: (dragged, onto) => dragged.id !== onto.id,
    onDrop: (dragged, onto) => move(dragged.id, onto.id),
  });
  const put = (at: number, part: Partial<ViewColumn>) =>
    onChange(columns.map((column, i) => (i === at ? clean({ ...column, ...part }) : column)));
  return (
    <section aria-label={words.order}>
      <h2>
        {words.order} <span className="since">{words.orderCount(columns.length)}</span>
      </h2>
      <ol className="columnorder">
        {columns.map((column, i) => {
          const field = known.get(column.field);
          const name = nameOf(column);
          return (
            <li
              key={column.field}
              className={over === i ? 'over' : undefined}
              {...handlers({ id: i, name }, true)}
            >
              <span className="columnname">{name}</span>
              <span className="columnacts">
                <Act label={words.up(name)} sign="↑" isOff={i === 0} act={() => move(i, i - 1)} />
                <Act
                  label={words.down(name)}
                  sign="↓"
                  isOff={i === columns.length - 1}
                  act={() => move(i, i + 1)}
                />
                <Act
                  label={words.drop(name)}
                  sign="×"
                  isOff={columns.length === 1}
                  act={() => onChange(columns.filter((_, at) => at !== i))}
                />
              </span>
              {field?.isSeveral && (
                <Choice
                  id={`several-${column.field}`}
                  label={words.severalOf(name)}
                  clearable={false}
                  options={(['all', 'latest', 'count', 'each'] as const).map((value) => ({
                    value,
                    label: words.several[value],
                  }))}
                  value={column.several ?? 'all'}
                  onChange={(value) => put(i, { several: value as 'all' })}
                />
              )}
              {field && !field.isSeveral && !isPlain && (
                <Choice
                  id={`total-${column.field}`}
                  label={words.total(name)}
                  clearable={false}
                  options={[
                    { value: '', label: words.noTotal },
                    ...totalsOf(field).map((value) => ({ value, label: words.totals[value] })),
                  ]}
                  value={column.total ?? ''}
                  onChange={(value) => put(i, { total: (value || undefined) as TotalName })}
                />
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
};

const totalsOf = (field: ReportFieldOut): TotalName[] =>
  isNumeric(field) ? ['sum', 'mean', 'median', 'least', 'most', 'count'] : ['count'];

const clean = (column: ViewColumn): ViewColumn =>
  Object.fromEntries(Object.entries(column).filter(([, value]) => value !== undefined)) as ViewColumn;

type ActProps = { label: string; sign: string; isOff: boolean; act: () => void };

const Act = ({ label, sign, isOff, act }: ActProps) => (
  <button type="button" className="textact" aria-label={label} title={label} disabled={isOff} onClick={act}>
    {sign}
  </button>
);
