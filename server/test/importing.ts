// What tests of imports share: rows and what is wrong with them, places to hire into, writing, workbooks.
import { type ImportRow, type RowStatus, endpoints } from '@gremium/contract';
import excel from 'exceljs';
import { type Client, type Running, many, settled, sql } from './harness';

/** Rows of an import as the page gets them. */
export const rowsOf = async (client: Client, id: number, status?: RowStatus) =>
  (await client.call(endpoints.importRows, { params: { id }, query: status ? { status } : {} })).rows;

/** What is wrong with a row: field and code of each fault. */
export const codes = (row: ImportRow | undefined) =>
  row?.faults.map(({ field, problem }) => `${field} ${problem.code}`);

/** Places free from now on, with their codes. */
export const freePlaces = async (
  running: Running,
  admin: Client,
): Promise<{ id: number; code: string; unit: string }[]> => {
  const { positions } = await admin.call(endpoints.positions, { query: { free: 'yes' } });
  const taken = new Set(
    (
      await many<{ id: number }>(
        running.owner,
        sql`select position_id as id from placement_version where superseded_by is null and valid_until > '2026-11-23'`,
      )
    ).map(({ id }) => id),
  );
  const units = new Map(
    (
      await many<{ id: number; name: string }>(
        running.owner,
        sql`select unit_id as id, name from unit_version where superseded_by is null and valid_until > '2026-11-23'`,
      )
    ).map(({ id, name }) => [id, name]),
  );
  return positions
    .filter(({ id, mark }) => mark === 'vacant' && !taken.has(id))
    .map(({ id, code, unitId }) => ({ id, code, unit: units.get(unitId) ?? '' }));
};

/** Writes an import, with a word for each warning. */
export const write = async (client: Client, id: number, rows: 'all' | 'good' = 'all') => {
  const { warnings } = await client.call(endpoints.import, { params: { id } });
  const words = Object.fromEntries(warnings.map(({ problem }) => [problem.code, 'as agreed']));
  await client.call(endpoints.writeImport, { params: { id }, body: { rows, words } });
  return settled(client, id);
};

/** A workbook as rows of texts, with the notes of its cells. */
export const sheetOf = async (client: Client, path: string) => {
  const response = await fetch(`${client.address}${path}`, { headers: { cookie: client.cookie } });
  const content = Buffer.from(await response.arrayBuffer());
  const book = new excel.Workbook();
  await book.xlsx.load(content as never);
  return { content, book, sheet: book.worksheets[0] as excel.Worksheet };
};
