import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Moment } from '../time/day';

/** What somebody is writing and has not recorded: kept per account, on whatever machine they go on. */
export const Draft = z.object({
  /** Made by the client; stands in the address, so that a link reopens the slip. */
  key: z.string().regex(/^[a-z0-9]{8,40}$/, { error: 'value_invalid' }),
  kind: z.enum(['edit']),
  /** The record it belongs to, as "position 4711". */
  about: z.string().regex(/^[a-z_]+ \d+$/, { error: 'value_invalid' }),
  content: z.record(z.string(), z.unknown()),
});
export type Draft = z.infer<typeof Draft>;

/** A draft with the moment at which it was kept last. */
export const KeptDraft = Draft.extend({
  keptAt: Moment,
  /** What the record is called; null where it is not to be seen any more. */
  name: z.string().nullable(),
});
export type KeptDraft = z.infer<typeof KeptDraft>;

const Key = z.object({ key: Draft.shape.key });

/** What an account has begun and not saved. */
export const draftEndpoints = {
  drafts: endpoint({
    method: 'GET',
    path: '/api/drafts',
    summary: 'Own drafts, latest first',
    right: 'signed_in',
    reply: z.object({ drafts: z.array(KeptDraft) }),
  }),
  keepDraft: endpoint({
    method: 'POST',
    path: '/api/drafts/:key',
    summary: 'Keep a draft as it now stands',
    right: 'signed_in',
    params: Key,
    body: Draft.omit({ key: true }).strict(),
    reply: z.object({ keptAt: Moment }),
  }),
  discardDraft: endpoint({
    method: 'DELETE',
    path: '/api/drafts/:key',
    summary: 'Discard a draft',
    right: 'signed_in',
    params: Key,
    reply: z.object({}),
  }),
};
