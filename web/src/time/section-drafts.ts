import { type Draft, draftEndpoints } from '@gremium/contract';
import { call } from '../api';
import { KeptStore } from './kept';

/** Sections of records that are changed and not yet saved: one draft a record. */
export const sectionDrafts = new KeptStore<Draft>({
  load: async () => (await call(draftEndpoints.drafts, {})).drafts,
  keep: ({ key, kind, about, content }, options) =>
    call(draftEndpoints.keepDraft, { params: { key }, body: { kind, about, content } }, options),
  discard: (key) => call(draftEndpoints.discardDraft, { params: { key } }),
});
