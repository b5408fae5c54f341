import type { Bound, Day, Kind, SectionName, SlipValue, Values } from '@gremium/contract';
import { problem, thing } from '../time/problem';
import type { Draft } from '../time/draft';
import { type Period, addDays, isOn } from '../time/calendar';
import { spanOf } from '../people/employments';
import { type FullTime, fullTimeOf, hiresNeedPosition, inherited } from '../structure/tree';

/** Where a movement is to go: a position, or a unit in which one is made. */
export type Target = {
  positionId?: number | undefined;
  unitId?: number | undefined;
  jobId?: number | undefined;
  locationId?: number | undefined;
  hours?: number | undefined;
  above?: { aboveReason?: string | undefined; reviewOn?: Day | undefined } | undefined;
};

/** Where a movement goes, and what the place says about the terms there. */
export type Place = {
  positionId: number;
  position: Values<'position'>;
  locationId: number | null;
  legalEntityId: number | null;
  hours: number;
  fullTime: number;
  fullTimeSource: FullTime['source'];
  sources: SlipValue[];
};

/**
 * The position a movement goes to on its first day; where hires need none, one is made with it (`hires_need_position`
 * where they do). Adds a problem and returns null if there is no such place.
 */
export const findPlace = (draft: Draft, target: Target, firstDay: Day): Place | null => {
  const positionId = target.positionId ?? makePosition(draft, target, firstDay);
  if (positionId === null) return null;
  const position = draft.register.at('position', positionId, firstDay);
  if (!position) {
    draft.problems.push(
      problem('reference_missing', { what: thing('position', positionId), day: firstDay }, 'positionId'),
    );
    return null;
  }
  const location = inherited(draft.register, position, 'locationId', firstDay);
  const entity = inherited(draft.register, position, 'legalEntityId', firstDay);
  const full = fullTimeOf(draft.register, position, firstDay);
  const hours = target.hours ?? position.hours ?? full.hours;
  const hoursSource =
    target.hours !== undefined ? 'typed' : position.hours !== null ? 'position' : full.source;
  return {
    positionId,
    position,
    locationId: location.value,
    legalEntityId: entity.value,
    hours,
    fullTime: full.hours,
    fullTimeSource: full.source,
    sources: [
      slip('positionId', positionId, target.positionId ? 'typed' : 'unit'),
      slip('unitId', position.unitId, 'position'),
      slip('jobId', position.jobId, 'position'),
      slip('locationId', location.value, location.source),
      slip('legalEntityId', entity.value, entity.source),
      slip('hours', hours, hoursSource),
      slip('fullTime', full.hours, full.source),
    ],
  };
};

/** A value of the slip with where it comes from. */
export const slip = (
  field: string,
  after: SlipValue['after'],
  source: SlipValue['source'],
  before: SlipValue['before'] = null,
  section?: string,
): SlipValue => ({ ...(section ? { section } : {}), field, before, after, source });

const makePosition = (draft: Draft, { unitId, jobId, locationId }: Target, firstDay: Day): number | null => {
  const { register } = draft;
  const unit = unitId === undefined ? undefined : register.at('unit', unitId, firstDay);
  if (unitId === undefined || !unit) {
    draft.problems.push(problem('value_invalid', {}, unitId === undefined ? 'positionId' : 'unitId'));
    return null;
  }
  if (hiresNeedPosition(register, unitId, firstDay)) {
    draft.problems.push(problem('hires_need_position', { unit: thing('unit', unitId) }, 'positionId'));
    return null;
  }
  const below = register.referrers('unit', 'parentId', unitId).filter((row) => isOn(row, firstDay));
  if (below.length > 0) {
    const units = below.map((row) => thing('unit', row.thing));
    draft.problems.push(problem('unit_has_sub_units', { unit: thing('unit', unitId), units }, 'unitId'));
  }
  const job = jobId ?? register.at('unit_hiring', unitId, firstDay)?.jobId ?? null;
  const values = job === null ? undefined : register.at('job', job, firstDay);
  if (job === null || !values) {
    draft.problems.push(problem('value_invalid', {}, 'jobId'));
    return null;
  }
  const positionId = draft.newId();
  draft.begin(
    'position',
    positionId,
    { from: firstDay, until: 'infinity' },
    {
      code: `${unit.code}-${positionId}`,
      title: values.title,
      jobId: job,
      unitId,
      standing: 'in_force',
      locationId: locationId ?? null,
      gradeId: values.gradeId,
      hours: values.hours,
      averagedOver: values.averagedOver,
      temporary: false,
      madeOnHire: true,
      confirmedTop: false,
      sources: { title: 'job', gradeId: 'job', hours: 'job', averagedOver: 'job' },
    },
  );
  draft.begin(
    'position_limits',
    positionId,
    { from: firstDay, until: 'infinity' },
    { places: 1, fte: 100, handoverDays: 0 },
  );
  return positionId;
};

/** A position made with a hire closes the day after its last holder's last day, also where that is known from the beginning. */
export const closeMadeOnHire = (draft: Draft, positionId: number, lastDay: Bound): void => {
  const from = addDays(lastDay, 1);
  const position = draft.register.at('position', positionId, from);
  if (!position?.madeOnHire || position.standing === 'closed') return;
  const others = draft.register.referrers('placement', 'positionId', positionId, { from, until: 'infinity' });
  if (others.length === 0) draft.set('position', positionId, { from, values: { standing: 'closed' } });
};

/** The version of a placement at a place. */
export const placementAt = (
  place: Place,
  employmentId: number,
  { reasonId, above }: { reasonId: number | null; above?: Target['above'] },
): Values<'placement'> => ({
  employmentId,
  positionId: place.positionId,
  kind: 'primary',
  hours: place.hours,
  fullTime: place.fullTime,
  fullTimeSource: place.fullTimeSource,
  keptHours: null,
  lentHours: 0,
  awayHours: 0,
  backfilled: false,
  lead: false,
  forPlacementId: null,
  reasonId,
  costCentreId: null,
  aboveReason: above?.aboveReason ?? null,
  reviewOn: above?.reviewOn ?? null,
});

/** Ends all that hangs on an employment after its last day: placements, and what is declared to end with it. */
export const endTerms = (draft: Draft, employmentId: number, lastDay: Day): void => {
  const { register } = draft;
  const after: Period = { from: addDays(lastDay, 1), until: 'infinity' };
  const placements = register.referrers('placement', 'employmentId', employmentId, after);
  const positions = new Set(placements.map(({ values }) => values.positionId));
  for (const id of new Set(placements.map((row) => row.thing))) cut(draft, 'placement', id, after.from);
  endOwned(draft, 'employment', employmentId, after.from);
  for (const positionId of positions) closeMadeOnHire(draft, positionId, lastDay);
};

/** Ends what ends with its owner, and what in turn belongs to that. */
export const endOwned = (draft: Draft, kind: Kind, id: number, from: Bound): void => {
  const { register } = draft;
  for (const name of register.catalogue.belongingTo(kind)) {
    const { owner, endsWithOwner, kind: own } = register.catalogue.section(name);
    if (!owner || !endsWithOwner) continue;
    const rows = register.referrers(name, owner.field as never, id, { from, until: 'infinity' });
    for (const thing of new Set(rows.map((row) => row.thing))) {
      endOwned(draft, own, thing, from);
      cut(draft, name, thing, from);
    }
  }
};

const cut = (draft: Draft, section: SectionName, id: number, from: Bound): void => {
  if (spanOf(draft.register.rows(section, id))) draft.cutFrom(section, id, from);
};
