// How a list is looked at: under which condition of any field, as what, with which columns, in which order. All of it stands
// in the address, so that a link, a reload and the way back show the same.
import { type SectionName, type ViewColumn, ViewDefinition } from '@gremium/contract';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { useSetParams } from '../frame/lens';

/** What a list can be shown as. */
export type Shape = 'list' | 'table' | 'cards' | 'tree';

/** A list that stands on the fields of a subject. */
export type Listed = {
  subject: SectionName;
  /** The page it is on. */
  path: string;
  shapes: readonly Shape[];
  /** Fields of text that a search looks in. */
  searched: readonly string[];
  /** Columns of its table at first, and the order of its rows. */
  columns: readonly string[];
  order: string;
  /** Parameters of the page's own filters, which stay when a record is opened. */
  params: readonly string[];
  /** What the page's own filters are set to when a kept view is opened: nothing is narrowed beside its condition. */
  open: Readonly<Record<string, string | null>>;
};

const OWN = ['where', 'as', 'cols', 'order'];

const quoted = (text: string): string => JSON.stringify(text);
const all = (conditions: readonly string[]): string =>
  conditions
    .filter((one) => one !== '')
    .map((one) => (/\|\||\?/.test(one) ? `(${one})` : one))
    .join(' && ');

// Each word has to be found in one of the fields; of those the viewer may not see there are none.
const searchCondition = (search: string, fields: readonly string[]): string =>
  all(
    search
      .split(' ')
      .filter(Boolean)
      .map((word) => fields.map((field) => `${field}.contains(${quoted(word)})`).join(' || ')),
  );

const columnsIn = (text: string | null): ViewColumn[] | null => {
  if (!text) return null;
  const read = ViewDefinition.shape.columns.safeParse(
    text.split(',').map((one) => {
      const [field = '', several] = one.split('~');
      return several ? { field, several } : { field };
    }),
  );
  return read.success ? read.data : null;
};

const orderIn = (text: string | null, usual: string): ViewDefinition['order'] =>
  (text ?? usual)
    .split(',')
    .filter(Boolean)
    .map((one) => ({ field: one.replace(/^-/, ''), down: one.startsWith('-') }));

const orderText = (order: ViewDefinition['order']): string =>
  order.map(({ field, down }) => `${down ? '-' : ''}${field}`).join(',');

const columnsText = (columns: readonly ViewColumn[]): string =>
  columns.map(({ field, several }) => (several ? `${field}~${several}` : field)).join(',');

/** What the address says of a list, and how to say it otherwise. `narrowed`: the page's own filters, as conditions. */
export const useListView = (
  listed: Listed,
  {
    narrowed,
    search,
    seen,
  }: { narrowed: readonly string[]; search: string; seen: ReadonlySet<string> | null },
) => {
  const [params] = useSearchParams();
  const set = useSetParams();
  const where = params.get('where') ?? '';
  const asked = (params.get('as') ?? 'list') as Shape;
  const shape = listed.shapes.includes(asked) ? asked : 'list';
  const [cols, order] = [params.get('cols'), params.get('order')];
  const ground = [...narrowed].join('\n');
  const view = useMemo((): ViewDefinition => {
    const fields = listed.searched.filter((field) => seen === null || seen.has(field));
    const conditions = [...ground.split('\n'), searchCondition(search, fields), where];
    return {
      subject: listed.subject,
      columns: columnsIn(cols) ?? listed.columns.map((field) => ({ field })),
      condition: all(conditions),
      order: orderIn(order, listed.order),
      groups: [],
    };
  }, [listed, ground, search, where, cols, order, seen]);
  const kept = useMemo(
    () =>
      Object.fromEntries(
        [...listed.params, ...OWN].flatMap((name) => (params.has(name) ? [[name, params.get(name)]] : [])),
      ) as Record<string, string>,
    [listed, params],
  );
  return {
    where,
    shape,
    view,
    /** What stays in the address when a record is opened. */
    kept,
    setWhere: (text: string) => set({ where: text || null }),
    setShape: (next: Shape) => set({ as: next === 'list' ? null : next }),
    setColumns: (columns: readonly ViewColumn[]) => set({ cols: columnsText(columns) }),
    setOrder: (next: ViewDefinition['order']) => set({ order: orderText(next) }),
    /** Shows a kept view here. */
    openView: (of: ViewDefinition) =>
      set({
        ...listed.open,
        where: of.condition || null,
        as: of.as && of.as !== 'list' ? of.as : null,
        cols: columnsText(of.columns),
        order: of.order.length > 0 ? orderText(of.order) : null,
      }),
  };
};

export type ListView = ReturnType<typeof useListView>;
