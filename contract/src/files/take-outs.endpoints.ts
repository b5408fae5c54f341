import { z } from 'zod';
import { FileReply, endpoint } from '../endpoint';
import { Problem } from '../problems';
import { ViewDefinition } from '../reports/view';
import { Day, Moment } from '../time/day';
import { Lens, Page } from '../time/records.endpoints';
import { Id } from '../time/section';

/**
 * How rows are laid out: `view` as the view shows them; `import` with our ids and the columns of a file that is taken in again;
 * `people` as a file of people that is taken in again; `anew` like `import` without ids and from the beginning, to build
 * the same elsewhere.
 */
export const TakeOutLayout = z.enum(['view', 'import', 'people', 'anew']);
export type TakeOutLayout = z.infer<typeof TakeOutLayout>;

/** One file of what is taken out. */
export const TakeOutPart = z.strictObject({
  title: z.string().max(200),
  view: ViewDefinition,
  layout: TakeOutLayout.default('view'),
});
export type TakeOutPart = z.infer<typeof TakeOutPart>;

/** What is asked to be taken out. */
export const TakeOutAsk = z.strictObject({
  title: z.string().max(200),
  /** Several are one ZIP. */
  parts: z.array(TakeOutPart).min(1).max(60),
  format: z.enum(['csv', 'xlsx']),
  language: z.enum(['en', 'de']).default('en'),
  ...Lens.shape,
});
export type TakeOutAsk = z.infer<typeof TakeOutAsk>;

/** How far it is; `gone`: its file is no longer kept. */
export const TakeOutState = z.enum(['waiting', 'ready', 'failed', 'cancelled', 'gone']);
export type TakeOutState = z.infer<typeof TakeOutState>;

/** One line of what was taken out: who, when, what of it, how much. */
export const TakeOutLine = z.object({
  id: Id,
  title: z.string(),
  at: Moment,
  by: z.string(),
  /** Whether it is the viewer's, who alone may fetch its file. */
  own: z.boolean(),
  format: z.enum(['csv', 'xlsx', 'zip']),
  state: TakeOutState,
  /** Rows written and rows in all, while it is worked on. */
  work: z.object({ done: z.int(), total: z.int() }).nullable(),
  /** Titles, filters and numbers of rows of its files. */
  parts: z.array(z.object({ title: z.string(), filter: z.string(), rows: z.int().nullable() })),
  rows: z.int().nullable(),
  bytes: z.int().nullable(),
  /** Looked at this day, as after this entry. */
  on: Day,
  entry: z.int(),
  /** Labels of sensitive sections that are in it. */
  sensitive: z.array(z.string()),
  /** The last day on which its file is kept. */
  until: Day,
  trouble: z.array(Problem),
});
export type TakeOutLine = z.infer<typeof TakeOutLine>;

const Key = z.object({ id: z.coerce.number().int() });

/** What is taken out of the register as files: asked for, worked on in the background, kept for a while for who asked. */
export const takeOutEndpoints = {
  takeOut: endpoint({
    method: 'POST',
    path: '/api/take-outs',
    summary: 'Take views out as a file; several as a ZIP',
    right: 'signed_in',
    body: TakeOutAsk,
    reply: z.object({ id: Id }),
  }),
  takeOuts: endpoint({
    method: 'GET',
    path: '/api/take-outs',
    summary: 'What was taken out, newest first: own, and those of others for who reads the journal',
    right: 'signed_in',
    query: Page,
    reply: z.object({ takeOuts: z.array(TakeOutLine), total: z.int() }),
  }),
  takenOut: endpoint({
    method: 'GET',
    path: '/api/take-outs/:id',
    summary: 'One of them as it now stands',
    right: 'signed_in',
    params: Key,
    reply: TakeOutLine,
  }),
  takeOutProgress: endpoint({
    method: 'GET',
    path: '/api/take-outs/:id/progress',
    summary: 'How far it is, as server-sent events; ends with the work',
    right: 'signed_in',
    params: Key,
    reply: FileReply,
  }),
  takeOutFile: endpoint({
    method: 'GET',
    path: '/api/take-outs/:id/file',
    summary: 'Its file: for who asked for it, as long as they have the rights they had then',
    right: 'signed_in',
    params: Key,
    reply: FileReply,
  }),
  cancelTakeOut: endpoint({
    method: 'POST',
    path: '/api/take-outs/:id/cancel',
    summary: 'Stop it, or delete its file',
    right: 'signed_in',
    params: Key,
    reply: z.object({}),
  }),
};
