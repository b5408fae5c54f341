import { z } from 'zod';
import { FileReply, endpoint } from '../endpoint';
import { RecordOut } from '../time/record-out';
import { Lens, Page } from '../time/records.endpoints';

/** Status of a person on a day. */
export const Status = z.enum(['coming', 'at_work', 'away', 'left']);
export type Status = z.infer<typeof Status>;

/** A person as the list shows one, on a day. */
export const PersonLine = z.object({
  id: z.int(),
  number: z.string(),
  name: z.string(),
  sort: z.string(),
  status: Status,
  positionId: z.int().nullable(),
  title: z.string().nullable(),
  unitId: z.int().nullable(),
  unit: z.string().nullable(),
  location: z.string().nullable(),
  since: z.string().nullable(),
  /** The digest of the photo, where photos are asked for and there is one. */
  picture: z.string().optional(),
});
export type PersonLine = z.infer<typeof PersonLine>;

/** The list of people, and the record of one. */
export const peopleEndpoints = {
  people: endpoint({
    method: 'GET',
    path: '/api/people',
    summary: 'People on a day: search by any part of the name, number or email, accents aside',
    right: { section: 'person_name', level: 'view' },
    query: Lens.extend(Page.shape).extend({
      search: z.string().trim().max(100).optional(),
      /** `counted`: of those here, whoever counts in headcount. */
      status: z.enum(['here', 'counted', 'coming', 'left', 'any']).default('here'),
      /** A unit: only people placed in it or below. */
      branch: z.coerce.number().int().optional(),
      /** Of this unit only those in it itself. */
      itself: z.enum(['yes']).optional(),
      location: z.coerce.number().int().optional(),
      /** A condition in CEL over the fields of people. */
      where: z.string().max(4000).optional(),
      /** With the photos that may be seen. */
      photos: z.enum(['yes']).optional(),
    }),
    /** `notCounted`: of those here, how many do not count in headcount; 0 where others are asked for. */
    reply: z.object({ people: z.array(PersonLine), total: z.int(), notCounted: z.int() }),
  }),
  peopleByNumbers: endpoint({
    method: 'POST',
    path: '/api/people-by-numbers',
    summary:
      'People by their numbers, as far as the viewer may see them; a hidden number and one nobody has are alike',
    right: { section: 'person', level: 'view' },
    body: z.strictObject({ numbers: z.array(z.string().trim().min(1).max(40)).min(1).max(2000) }),
    reply: z.object({
      found: z.array(z.object({ id: z.int(), name: z.string() })),
      unknown: z.array(z.string()),
    }),
  }),
  reportingTree: endpoint({
    method: 'GET',
    path: '/api/people-tree',
    summary: 'Who reports to somebody directly on a day; without them, who reports to nobody the viewer sees',
    right: { section: 'person_name', level: 'view' },
    query: Lens.extend({ under: z.coerce.number().int().optional() }),
    reply: z.object({ people: z.array(PersonLine.extend({ reports: z.int() })) }),
  }),
  personOut: endpoint({
    method: 'GET',
    path: '/api/people/:id/out',
    summary:
      'The record of a person as a file, as far as the viewer may see it: as it is read on the day looked at (PDF), or all versions with their entries (JSON)',
    right: { section: 'person_name', level: 'view' },
    params: z.object({ id: z.coerce.number().int() }),
    query: Lens.extend({ format: z.enum(['pdf', 'json']), language: z.enum(['en', 'de']).default('en') }),
    reply: FileReply,
  }),
  personRecord: endpoint({
    method: 'GET',
    path: '/api/people/:id',
    summary:
      'A person: names, contacts, employments, contracts, placements, pay, on every day the viewer may see',
    right: { section: 'person_name', level: 'view' },
    params: z.object({ id: z.coerce.number().int() }),
    query: Lens,
    reply: RecordOut.extend({
      /** Title and unit of the primary placement on the day looked at (else of the last one), known to all who see it. */
      place: z.object({ title: z.string(), unit: z.string() }).nullable(),
    }),
  }),
};
