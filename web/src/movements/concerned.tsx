import type { ConcernedOut, Moved } from '@gremium/contract';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useTo } from '../frame/lens';
import { hasRecord, pathOf } from '../frame/pages';
import { useFormat } from '../texts/format';
import { PlainTable } from '../ui/plain-table';

type ConcernedProps = {
  of: NonNullable<Moved['concerned']>;
  /** What can be decided otherwise of one of them: its word, and whether it is. */
  turn?: {
    word: (isOther: boolean) => string;
    isOther: (of: ConcernedOut) => boolean;
    set: (of: ConcernedOut) => void;
  };
};

const FIRST = 12;

/** Others whom a movement touches: how many, and what changes of each. */
export const ConcernedLines = ({ of, turn }: ConcernedProps) => {
  const { t } = useTranslation();
  const format = useFormat();
  const to = useTo();
  const [isAll, setAll] = useState(false);
  if (of.count === 0) return <p className="soft">{t('slip.concernsNobody')}</p>;
  const shown = isAll ? of.lines : of.lines.slice(0, FIRST);
  const valueOf = ({ values }: ConcernedOut, field: string) => values.find((one) => one.field === field);
  const said = (line: ConcernedOut, field: string): string => {
    const value = valueOf(line, field);
    if (!value || typeof value.after !== 'number') return '';
    if (value.before === value.after) return format.hundredths(value.after);
    const before = typeof value.before === 'number' ? `${format.hundredths(value.before)} → ` : '';
    return `${before}${format.hundredths(value.after)}`;
  };
  const hasHours = shown.some((line) => valueOf(line, 'hours'));
  return (
    <div className="concerned">
      <h3>{t('slip.concerned', { count: of.count, shown: format.number(of.count) })}</h3>
      <PlainTable
        heads={[{ label: t('slip.who') }, ...(hasHours ? [{ label: t('field.hours'), isNumber: true }] : [])]}
        rows={shown.map((line, i) => ({
          key: `${line.id} ${i}`,
          cells: [
            <div key="name">
              {hasRecord(line.kind) ? (
                <Link to={to(pathOf(line.kind, line.id))}>{line.name}</Link>
              ) : (
                line.name
              )}
              {(line.where || turn) && (
                <div className="source">
                  {line.where}
                  {line.where && turn && ' · '}
                  {turn && (
                    <button type="button" className="textact" onClick={() => turn.set(line)}>
                      {turn.word(turn.isOther(line))}
                    </button>
                  )}
                </div>
              )}
            </div>,
            ...(hasHours ? [said(line, 'hours')] : []),
          ],
        }))}
      />
      {!isAll && of.lines.length > FIRST && (
        <button type="button" className="textact" onClick={() => setAll(true)}>
          {t('slip.concernedAll', { shown: format.number(of.lines.length) })}
        </button>
      )}
    </div>
  );
};
