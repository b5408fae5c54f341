import './report.css';
import {
  type DimensionName,
  type MeasureName,
  DimensionName as Dimensions,
  MeasureName as Measures,
} from '@gremium/contract';
import { addMonths, startOfMonth } from '@gremium/core';
import { useState } from 'react';
import i18next from 'i18next';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { useLens, useSetParams } from '../frame/lens';
import { useSession } from '../frame/session';
import { useFormat } from '../texts/format';
import { Problems } from '../ui/problems';
import { PickWord } from '../ui/sentence';
import { CrossGrid } from './cross-grid';
import {
  type Asked,
  type CrossOut,
  isNarrowed,
  narrowedNames,
  turned,
  useAsked,
  useCrossTable,
  useFileAddress,
} from './measures.queries';
import { useCells } from './use-cells';
import { useLabel } from './use-label';
import { de, en } from './report-texts';
import { TakeOut } from './take-out';
import { Why } from './why';

i18next.addResourceBundle('en', 'reports', en);
i18next.addResourceBundle('de', 'reports', de);

/** A report: one measure by one dimension over months, with its chart, what it can be narrowed to, and why. */
export const CrossTable = () => {
  const { t } = useTranslation('reports');
  const { t: texts } = useTranslation();
  const [params] = useSearchParams();
  const asked = useAsked();
  const table = useCrossTable(asked);
  const cells = useCells(asked);
  const address = useFileAddress(asked);
  const [key, month] = (params.get('cell') ?? '').split('~');
  const cell = key && month ? { key, month } : null;
  const title =
    asked.by === 'whole'
      ? t('titleWhole', { measure: cells.measure })
      : t('title', { measure: cells.measure, by: t(`dimensions.${asked.by}`) });
  return (
    <main className={cell ? 'sheet report with-why' : 'sheet report'}>
      <section className="figures" aria-busy={table.isPlaceholderData}>
        <header>
          <h1>{title}</h1>
          <TakeOut address={address} />
        </header>
        <Sentence asked={asked} table={table.data} />
        <Problems of={table.error} />
        {table.isPending && <p className="empty">{texts('waiting')}</p>}
        {table.data && (
          <>
            <Chips asked={asked} table={table.data} />
            {table.data.rows.length === 0 ? (
              <p className="empty">{t('empty')}</p>
            ) : (
              <CrossGrid asked={asked} table={table.data} open={cell} title={title} />
            )}
          </>
        )}
      </section>
      {cell && <Why asked={asked} cell={cell} table={table.data} />}
    </main>
  );
};

const MOST_MONTHS = 60;

const Sentence = ({ asked, table }: { asked: Asked; table: CrossOut | undefined }) => {
  const { t } = useTranslation('reports');
  const format = useFormat();
  const { on } = useLens();
  const set = useSetParams();
  const change = (changes: Record<string, string>) => set({ ...changes, cell: null });
  const months = Array.from({ length: MOST_MONTHS }, (_, i) => addMonths(startOfMonth(on), -i).slice(0, 7));
  const monthsWith = (month: string) => [...new Set([...months, month])].sort().reverse();
  const { fiscalMonth } = useSession();
  const isYear = (month: string) => Number(month.slice(5)) === fiscalMonth;
  const options = (all: readonly string[]) =>
    all.map((month) => ({ value: month, label: format.month(month) }));
  // where a fiscal year begins is said
  const firstOptions = (all: readonly string[]) =>
    options(all).map(({ value, label }) => ({
      value,
      label: isYear(value) && value !== asked.from ? t('fiscalYear', { month: label }) : label,
    }));
  const scope = table?.scope;
  const language = useLabel();
  return (
    <div className="sentence">
      <p>
        <PickWord
          pick={{
            name: 'measure',
            label: t('measure'),
            value: asked.measure,
            options: Measures.options.map((value: MeasureName) => ({ value, label: t(`names.${value}`) })),
            onChange: (measure) => change({ measure }),
          }}
        />{' '}
        {t('by')}{' '}
        <PickWord
          pick={{
            name: 'by',
            label: t('dimension'),
            value: asked.by,
            options: Dimensions.options.map((value: DimensionName) => ({
              value,
              label: t(`dimensions.${value}`),
            })),
            onChange: (by) => change({ by }),
          }}
        />{' '}
        {t('over')}{' '}
        <PickWord
          pick={{
            name: 'from',
            label: t('from'),
            value: asked.from,
            options: firstOptions(monthsWith(asked.from).filter((month) => month <= asked.until)),
            onChange: (from) => change({ from, until: asked.until }),
          }}
        />{' '}
        {t('to')}{' '}
        <PickWord
          pick={{
            name: 'until',
            label: t('until'),
            value: asked.until,
            options: options(monthsWith(asked.until)),
            onChange: (until) => change({ until, from: asked.from < until ? asked.from : until }),
          }}
        />
      </p>
      <span className="soft">
        {table && (
          <>
            {scope ? t('scopePart', { units: scope.map(language).join(', ') }) : t('scopeAll')},{' '}
            {t('data', { from: format.month(table.dataFrom.slice(0, 7)) })}
          </>
        )}
      </span>
    </div>
  );
};

// Shown unasked where they have more than one value; any other dimension is added from a list.
const FIRST = ['workerType', 'country', 'division', 'legalEntity'];
const SHOWN = 7;

type Chip = { key: string; label: string; count: number };
type ChipRow = { name: string; head: string; chips: Chip[] };

const Chips = ({ asked, table }: { asked: Asked; table: CrossOut }) => {
  const { t } = useTranslation('reports');
  const set = useSetParams();
  const language = useLabel();
  const [added, setAdded] = useState<string[]>([]);
  const narrowed = narrowedNames(asked.narrow);
  const rows = table.chips.map(({ dimension, values }): ChipRow => ({
    name: dimension,
    head: t(`heads.${dimension}`),
    chips: values.map(({ key, label, count }) => ({
      key: key === null ? '-' : String(key),
      label: key === null ? t('none') : language(label),
      count,
    })),
  }));
  const classes: ChipRow = {
    name: 'class',
    head: t('heads.class'),
    chips: table.classes.map((one) => ({
      key: one.class,
      label: t(`classes.${one.class}`),
      count: one.count,
    })),
  };
  const isLeaving = asked.measure === 'turnover' || asked.measure === 'leavers';
  const all = isLeaving ? [...rows, classes] : rows;
  const isShown = ({ name, chips }: ChipRow) =>
    narrowed.includes(name) ||
    added.includes(name) ||
    (chips.length > 1 && name !== asked.by && (FIRST.includes(name) || name === 'class'));
  const others = all.filter((row) => !isShown(row) && row.chips.length > 0);
  const turn = (name: string, key: string) => set({ narrow: turned(asked.narrow, name, key), cell: null });
  return (
    <div className="narrowing">
      {all.filter(isShown).map((row) => (
        <ChipLine key={row.name} row={row} asked={asked} onTurn={(key) => turn(row.name, key)} />
      ))}
      <div className="chipline">
        <span className="lab" />
        <span className="chips">
          {others.length > 0 && (
            <PickWord
              pick={{
                name: 'narrow',
                label: t('narrowBy'),
                value: t('narrowBy'),
                options: others.map(({ name, head }) => ({ value: name, label: head })),
                onChange: (name) => setAdded([...added, name]),
              }}
            />
          )}
          {asked.narrow !== '' && (
            <button type="button" className="textact" onClick={() => set({ narrow: null, cell: null })}>
              {t('clear')}
            </button>
          )}
        </span>
      </div>
    </div>
  );
};

const ChipLine = ({ row, asked, onTurn }: { row: ChipRow; asked: Asked; onTurn: (key: string) => void }) => {
  const { t } = useTranslation('reports');
  const cells = useCells(asked);
  const [isOpen, setOpen] = useState(false);
  const isOn = ({ key }: Chip) => isNarrowed(asked.narrow, row.name, key);
  const shown = isOpen ? row.chips : row.chips.filter((chip, i) => i < SHOWN || isOn(chip));
  const hidden = row.chips.length - shown.length;
  return (
    <div className="chipline" role="group" aria-label={row.head}>
      <span className="lab">{row.head}</span>
      <span className="chips">
        {shown.map((chip) => (
          <button
            key={chip.key}
            type="button"
            className={isOn(chip) ? 'chip on' : 'chip'}
            aria-pressed={isOn(chip)}
            onClick={() => onTurn(chip.key)}
          >
            {chip.label} <i>{cells.count(chip.count)}</i>
          </button>
        ))}
        {(hidden > 0 || isOpen) && row.chips.length > SHOWN && (
          <button type="button" className="textact" onClick={() => setOpen(!isOpen)}>
            {isOpen ? t('fewer') : t('more', { count: hidden })}
          </button>
        )}
      </span>
    </div>
  );
};
