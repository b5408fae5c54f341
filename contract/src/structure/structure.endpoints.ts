import { z } from 'zod';
import { endpoint } from '../endpoint';
import { Named, RecordOut } from '../time/record-out';
import { Day } from '../time/day';
import { Lens } from '../time/records.endpoints';

/** Figures of a unit; FTE in hundredths, rounded for showing; cost as yearly whole amounts by currency. */
export const FiguresOut = z.object({
  people: z.int(),
  notCounted: z.int(),
  /** As people: of those who count in headcount; beside it that of the others. */
  fte: z.int(),
  fteNotCounted: z.int(),
  fteAtWork: z.int(),
  marks: z.record(z.string(), z.int()),
  freePlaces: z.int(),
  freeFte: z.int(),
  /** What of it somebody can be hired into: not in positions all places of which are taken. */
  hireFte: z.int(),
  span: z.number().nullable(),
  depth: z.int(),
  cost: z.record(z.string(), z.int()).nullable(),
});
export type FiguresOut = z.infer<typeof FiguresOut>;

/** Who leads a unit on a day: the holder of its head position, whoever acts in it, or the next above (bridged). */
export const HeadOut = z.object({
  positionId: z.int().nullable(),
  personId: z.int().nullable(),
  name: z.string().nullable(),
  state: z.enum(['held', 'acting', 'bridged', 'none']),
});
export type HeadOut = z.infer<typeof HeadOut>;

/** A unit as the outline shows one, on a day. */
export const UnitLine = z.object({
  id: z.int(),
  parentId: z.int().nullable(),
  /** How many units stand above it, of those that the viewer may see. */
  depth: z.int(),
  hasBelow: z.boolean(),
  code: z.string(),
  name: z.string(),
  /** Null where the viewer may see no names. */
  head: HeadOut.nullable(),
  own: FiguresOut,
  /** Null where nothing lies below: the branch is the unit itself. */
  branch: FiguresOut.nullable(),
});
export type UnitLine = z.infer<typeof UnitLine>;

/** A position as the list shows one, on a day. */
export const PositionLine = z.object({
  id: z.int(),
  code: z.string(),
  title: z.string(),
  unitId: z.int(),
  mark: z.string(),
  /** FTE in hundredths. */
  held: z.int(),
  limit: z.int().nullable(),
  places: z.int().nullable(),
  freePlaces: z.int().nullable(),
  freeFte: z.int().nullable(),
  hireFte: z.int().nullable(),
  vacantSince: z.string().nullable(),
  /** The next day on which somebody above the limit by right is looked at again. */
  reviewOn: z.string().nullable(),
  holders: z.array(z.int()),
  /** Names of the first few holders the viewer may see. */
  names: z.array(z.string()),
});
export type PositionLine = z.infer<typeof PositionLine>;

/** A person who holds a position of a unit, on a day. */
export const MemberLine = z.object({
  personId: z.int(),
  name: z.string(),
  positionId: z.int(),
  title: z.string(),
  /** FTE in hundredths. */
  share: z.int(),
  since: z.string(),
});
export type MemberLine = z.infer<typeof MemberLine>;

/** A unit just below another one, with figures of its whole branch. */
export const UnitBelow = Named.extend({ code: z.string(), figures: FiguresOut });
export type UnitBelow = z.infer<typeof UnitBelow>;

/** Positions that want something: nobody to report to though nobody confirmed it, over a limit, holders who differ. */
export const WhichPositions = z.enum(['top', 'above', 'differs']);
export type WhichPositions = z.infer<typeof WhichPositions>;

/** Somebody whose pay lies outside the range of the grade, on a day. */
export const OutsideLine = z.object({
  personId: z.int(),
  name: z.string(),
  positionId: z.int(),
  title: z.string(),
  amount: z.string(),
  currency: z.string(),
  /** Pay ÷ middle of the range in hundredths; null where that is nothing. */
  compaRatio: z.int().nullable(),
});
export type OutsideLine = z.infer<typeof OutsideLine>;

/** Somebody who reaches the next step of the grade. */
export const StepLine = z.object({
  employmentId: z.int(),
  personId: z.int(),
  name: z.string(),
  positionId: z.int().nullable(),
  title: z.string(),
  gradeId: z.int(),
  grade: z.string(),
  step: z.int(),
  since: z.string(),
  due: z.string(),
  amount: z.string().nullable(),
  currency: z.string(),
  before: z.string(),
});
export type StepLine = z.infer<typeof StepLine>;

/** The outline of units, positions, and the record of one. */
export const structureEndpoints = {
  outline: endpoint({
    method: 'GET',
    path: '/api/outline',
    summary:
      'The tree of units on a day, top to bottom, with figures of each, own and of the whole branch: so many levels of it (all), with the units unfolded or folded otherwise (`turned`: their ids, parted by dots)',
    right: { section: 'unit', level: 'view' },
    query: Lens.extend({
      levels: z.coerce.number().int().min(1).optional(),
      turned: z
        .string()
        .regex(/^\d+(\.\d+)*$/)
        .optional(),
    }),
    reply: z.object({
      units: z.array(UnitLine),
      /** Of the whole tree, folded or not. */
      count: z.int(),
      levels: z.int(),
    }),
  }),
  positions: endpoint({
    method: 'GET',
    path: '/api/positions',
    summary: 'Positions of a unit on a day with occupancy and what is free',
    right: { section: 'position', level: 'view' },
    query: Lens.extend({
      unit: z.coerce.number().int().optional(),
      /** A unit: its positions and those of all units below it. */
      branch: z.coerce.number().int().optional(),
      free: z.enum(['yes']).optional(),
      /** Positions of one job only. */
      job: z.coerce.number().int().optional(),
      /** Only those with at least so much free, in hundredths of FTE, or without such a limit. */
      least: z.coerce.number().int().optional(),
      which: WhichPositions.optional(),
    }),
    reply: z.object({ positions: z.array(PositionLine) }),
  }),
  positionRecord: endpoint({
    method: 'GET',
    path: '/api/positions/:id',
    summary: 'A position: its versions, limits and holders on every day the viewer may see',
    right: { section: 'position', level: 'view' },
    params: z.object({ id: z.coerce.number().int() }),
    query: Lens,
    reply: RecordOut.extend({
      /** Location, cost centre and legal entity on that day: the position's own, else from the nearest unit above. */
      inherited: z.object({
        locationId: z.int().nullable(),
        costCentreId: z.int().nullable(),
        legalEntityId: z.int().nullable(),
      }),
      /** Whether it reports to another position on that day, by itself or by the rule. */
      hasManager: z.boolean(),
      /** Positions below it on the day looked at, by title, with how many. */
      below: z.array(z.object({ title: z.string(), count: z.int() })),
      /** Of each holder whose qualifications the viewer may see: whether each requirement (by its row) is met, and until when. */
      qualified: z.array(
        z.object({
          personId: z.int(),
          name: z.string(),
          requirement: z.int(),
          state: z.enum(['met', 'runs_out', 'missing']),
          until: Day.nullable(),
        }),
      ),
    }),
  }),
  organisationRecord: endpoint({
    method: 'GET',
    path: '/api/organisations/:id',
    summary: 'The organisation: its settings with all their versions',
    right: { section: 'organisation', level: 'view' },
    params: z.object({ id: z.coerce.number().int() }),
    query: Lens,
    reply: RecordOut,
  }),
  unitRecord: endpoint({
    method: 'GET',
    path: '/api/units/:id',
    summary:
      'A unit: its versions; on a day its figures, members, positions, the units below, and whether hires need a position',
    right: { section: 'unit', level: 'view' },
    params: z.object({ id: z.coerce.number().int() }),
    query: Lens,
    reply: RecordOut.extend({
      /** Units above, the top first. */
      path: z.array(Named),
      head: HeadOut.nullable(),
      own: FiguresOut.nullable(),
      branch: FiguresOut.nullable(),
      below: z.array(UnitBelow),
      positions: z.array(PositionLine),
      members: z.array(MemberLine),
      hiresNeedPosition: z.boolean(),
    }),
  }),
  jobRecord: endpoint({
    method: 'GET',
    path: '/api/jobs/:id',
    summary: 'A job: its versions; on a day its positions, how many people hold them, how many may be made',
    right: { section: 'job', level: 'view' },
    params: z.object({ id: z.coerce.number().int() }),
    query: Lens,
    reply: RecordOut.extend({
      /** The first few; `count` of them in all that the viewer may see. */
      positions: z.array(PositionLine),
      count: z.int(),
      holders: z.int(),
      /** Positions with something free. */
      free: z.int(),
    }),
  }),
  gradeRecord: endpoint({
    method: 'GET',
    path: '/api/grades/:id',
    summary:
      'A grade: its versions, ranges and steps; on a day its positions, and who is paid outside the range',
    right: { section: 'grade', level: 'view' },
    params: z.object({ id: z.coerce.number().int() }),
    query: Lens,
    reply: RecordOut.extend({
      positions: z.array(PositionLine),
      count: z.int(),
      holders: z.int(),
      outside: z.array(OutsideLine),
      outsideCount: z.int(),
    }),
  }),
  stepsDue: endpoint({
    method: 'GET',
    path: '/api/steps',
    summary: 'Who reaches the next step of their grade by a day, the earliest first; of all, or of one grade',
    right: { section: 'pay', level: 'view' },
    query: Lens.extend({ by: Day, grade: z.coerce.number().int().optional() }),
    reply: z.object({ steps: z.array(StepLine), count: z.int() }),
  }),
};
