import type { FiguresOut } from '@gremium/contract';
import { marksInOrder } from '@gremium/core';
import { useTranslation } from 'react-i18next';
import { useLens } from '../frame/lens';
import { useFormat } from '../texts/format';
import { useWords } from '../texts/words';
import { unitWords } from './unit-words';
import { type MarkName, OccupancyMark } from '../ui/occupancy-mark';
import { PlainTable } from '../ui/plain-table';

type FiguresProps = { own: FiguresOut | null; branch: FiguresOut | null };

/** Figures of a unit itself and of its whole branch, on the day looked at. */
export const UnitFigures = ({ own, branch }: FiguresProps) => {
  const words = useWords(unitWords);
  const { t } = useTranslation();
  const format = useFormat();
  const { on, isToday } = useLens();
  const lines = [
    { key: 'own', label: words.itself, of: own },
    { key: 'branch', label: words.branch, of: branch },
  ];
  return (
    <section className="block">
      <h2>
        {words.figures}
        {!isToday && <span className="since indigo">{t('filter.on', { day: format.day(on) })}</span>}
      </h2>
      <PlainTable
        heads={[
          { label: '' },
          { label: t('outline.people'), isNumber: true },
          { label: t('outline.fte'), isNumber: true },
          { label: t('outline.positions') },
          { label: t('outline.freeFte'), isNumber: true },
          { label: t('outline.span'), isNumber: true },
        ]}
        rows={lines.flatMap(({ key, label, of }) =>
          of ? { key, cells: [label, ...cellsOf(of, format)] } : [],
        )}
      />
    </section>
  );
};

const cellsOf = (of: FiguresOut, format: ReturnType<typeof useFormat>): React.ReactNode[] => [
  format.number(of.people),
  format.hundredths(of.fte),
  <Marks key="marks" marks={of.marks} />,
  of.freeFte > 0 ? format.hundredths(of.freeFte) : '–',
  of.span === null ? '–' : format.hundredths(Math.round(of.span * 100)),
];

const Marks = ({ marks }: { marks: FiguresOut['marks'] }) => (
  <span className="markcounts">
    {marksInOrder
      .filter((mark) => (marks[mark] ?? 0) > 0)
      .map((mark) => (
        <span key={mark}>
          <OccupancyMark mark={mark as MarkName} /> {marks[mark]}
        </span>
      ))}
  </span>
);
