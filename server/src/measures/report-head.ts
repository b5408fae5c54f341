// The lines above a report that is taken out: what it is, the two clocks, whom it counts.
import {
  type CrossFileQuery,
  type CrossOut,
  type DimensionName,
  type ReportHeads,
  measureWords,
  reportHeads,
} from '@gremium/contract';
import type { Cell } from '../files/write-csv';

type Asked = Pick<CrossFileQuery, 'narrow' | 'language'>;

/** Of a table, or of one of its figures; ends with a blank line. */
export const reportHead = (
  title: string,
  table: Pick<CrossOut, 'on' | 'entry' | 'scope' | 'chips'>,
  { query, moment }: { query: Asked; moment: string },
): Cell[][] => {
  const { language } = query;
  const said = reportHeads[language];
  return [
    [title],
    [said.inEffect, table.on],
    [said.recorded, `${moment}, ${said.entry} ${table.entry}`],
    [said.part, table.scope?.map((label) => label[language]).join(', ') ?? said.all],
    [said.narrowed, query.narrow === '' ? said.all : narrowedTo(table, query, said)],
    [],
  ];
};

const narrowedTo = (table: Pick<CrossOut, 'chips'>, { narrow, language }: Asked, said: ReportHeads): string =>
  narrow
    .split(';')
    .map((part) => {
      const [name = '', keys = ''] = part.split(':');
      const values = table.chips.find(({ dimension }) => dimension === name)?.values ?? [];
      const labels = keys.split(',').map((key) => {
        const found = values.find((value) => String(value.key ?? '-') === key);
        return found?.label[language] || (key === '-' ? said.none : key);
      });
      return `${measureWords[language].dimensions[name as DimensionName] ?? name}: ${labels.join(', ')}`;
    })
    .join('; ');
