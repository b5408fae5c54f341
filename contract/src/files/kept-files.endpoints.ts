// Files that rows name: sent beforehand, typed by their content; served by the right to see the row that names them.
import { z } from 'zod';
import { SectionNameSchema } from '../catalogue';
import { FileReply, endpoint } from '../endpoint';
import { Moment } from '../time/day';
import { FileRef } from '../time/section';

/** Files of rows. */
export const keptFileEndpoints = {
  keepFile: endpoint({
    method: 'POST',
    path: '/api/kept-files',
    summary:
      'Send a file that a row is to name: PDF, picture, office document or plain text, typed by its content. It is not part of the register until a row names it',
    right: 'signed_in',
    query: z.strictObject({ name: z.string().trim().min(1).max(200) }),
    reply: FileRef,
  }),
  fileOfRow: endpoint({
    method: 'GET',
    path: '/api/file-of/:section/:thing/:row/:field',
    summary: 'A file that a row names, to whoever may see the row',
    right: 'signed_in',
    params: z.object({
      section: SectionNameSchema,
      thing: z.coerce.number().int(),
      row: z.coerce.number().int(),
      field: z.string().max(60),
    }),
    /** `shown`: to be looked at in its place, where its kind can be; `recordedBy`: of a row as it was known then. */
    query: z.strictObject({ shown: z.enum(['yes']).optional(), recordedBy: Moment.optional() }),
    reply: FileReply,
  }),
};
