import { z } from 'zod';
import { Kind } from './time/section';

/** An error refuses, a warning wants a word, a note only tells. */
export const Severity = z.enum(['error', 'warning', 'note']);
export type Severity = z.infer<typeof Severity>;

/** Every code a problem can have, with its usual severity. Names of database constraints are codes too. */
export const problemCodes = {
  // time
  day_invalid: 'error',
  moment_invalid: 'error',
  moment_later_than_now: 'error',
  period: 'error',
  overlap: 'error',
  no_version_on_day: 'error',
  version_unknown: 'error',
  shift_past_neighbour: 'error',
  gap_left: 'note',
  nothing_changed: 'note',
  later_versions: 'warning',
  // values
  value_invalid: 'error',
  decimal_invalid: 'error',
  currency_invalid: 'error',
  country_invalid: 'error',
  field_unknown: 'error',
  text_invalid: 'error',
  nested_too_deep: 'error',
  thing_unknown: 'error',
  time_zone_unknown: 'error',
  reference_missing: 'error',
  still_named: 'error',
  calendar_unread: 'error',
  picture_unread: 'error',
  unit_into_itself: 'error',
  picture_none: 'error',
  picture_too_large: 'error',
  too_many_days: 'error',
  organisation_there: 'error',
  over_by_full_time: 'warning',
  code_taken: 'error',
  number_taken: 'error',
  json_invalid: 'error',
  email_invalid: 'error',
  phone_invalid: 'error',
  link_invalid: 'error',
  section_unknown: 'error',
  kind_unknown: 'error',
  list_wrong: 'error',
  owner_constant: 'error',
  value_constant: 'error',
  // structure
  unit_ring: 'error',
  unit_roots: 'error',
  reporting_ring: 'error',
  standing_order: 'error',
  position_not_in_force: 'error',
  position_stranded: 'error',
  hires_need_position: 'error',
  unit_has_sub_units: 'warning',
  place_taken: 'error',
  fte_taken: 'error',
  limit_lowered: 'warning',
  grade_range_order: 'error',
  unit_not_empty: 'error',
  entity_differs: 'warning',
  // people
  name_missing: 'error',
  contact_missing: 'error',
  contact_form: 'warning',
  birth_date_unlikely: 'warning',
  employment_overlap: 'error',
  employment_gap: 'error',
  employment_constant: 'error',
  employment_unknown: 'error',
  placement_outside_employment: 'error',
  placement_none: 'error',
  placement_one_primary: 'error',
  share_above_one: 'warning',
  share_too_high: 'error',
  suspended_range: 'error',
  cover_too_large: 'error',
  outside_employment: 'error',
  pay_outside_range: 'warning',
  pay_not_positive: 'error',
  pay_currency: 'warning',
  pay_jump: 'warning',
  pay_unlikely: 'warning',
  twin_email: 'warning',
  twin_birth: 'warning',
  twin_returns: 'warning',
  same_position: 'error',
  person_employed: 'error',
  day_after_last: 'error',
  notice_short: 'warning',
  return_barred: 'warning',
  // entries
  conflict: 'error',
  movement_conflict: 'error',
  already_undone: 'error',
  undo_refused: 'error',
  undo_too_long: 'error',
  undo_plan_changed: 'error',
  put_back_superseded: 'error',
  entry_unknown: 'error',
  idempotency_other_request: 'error',
  entry_number: 'error',
  entry_moment: 'error',
  version_write_once: 'error',
  // access
  sign_in_failed: 'error',
  sign_in_needed: 'error',
  access_ended: 'error',
  right_missing: 'error',
  record_hidden: 'error',
  record_undone: 'error',
  record_later: 'error',
  own_record: 'error',
  link_used: 'error',
  password_short: 'error',
  password_common: 'error',
  too_many_requests: 'error',
  other_site: 'error',
  email_in_use: 'error',
  draft_limit: 'error',
  movement_unknown: 'error',
  movement_recorded: 'error',
  // a movement's warning without a word for it
  word_missing: 'error',
  // effects of a movement
  effect_mark: 'note',
  effect_reports_to: 'note',
  effect_no_manager: 'note',
  effect_fte: 'note',
  effect_continued: 'note',
  effect_reports: 'note',
  effect_no_reports_to: 'note',
  effect_branch: 'note',
  // files taken in
  file_empty: 'error',
  file_unreadable: 'error',
  file_unpacked_too_large: 'error',
  rows_too_many: 'error',
  columns_too_many: 'error',
  columns_none: 'error',
  column_twice: 'error',
  import_busy: 'error',
  import_state: 'error',
  import_refused_rows: 'error',
  import_failed: 'error',
  import_memory: 'error',
  value_missing: 'error',
  value_unknown: 'error',
  value_ambiguous: 'error',
  value_fixed: 'error',
  value_not_there: 'error',
  day_unreal: 'error',
  day_unread: 'error',
  number_unread: 'error',
  number_ambiguous: 'error',
  row_twice: 'error',
  cell_too_long: 'error',
  text_too_long: 'error',
  clear_refused: 'error',
  person_unknown: 'error',
  person_twice: 'error',
  email_shared: 'error',
  email_twice: 'error',
  name_differs: 'error',
  place_differs: 'error',
  manager_unplaced: 'error',
  manager_differs: 'error',
  manager_refused: 'error',
  share_range: 'error',
  person_alike: 'error',
  // server
  body_too_large: 'error',
  database_away: 'error',
  database_busy: 'error',
  path_unknown: 'error',
  failed: 'error',
} as const satisfies Record<string, Severity>;

/** What can be wrong, or told. */
export type ProblemCode = keyof typeof problemCodes;
/** Any of the codes. */
export const ProblemCodeSchema = z.enum(Object.keys(problemCodes) as [ProblemCode, ...ProblemCode[]]);

/** A thing named in a problem; the server fills the label in, or marks it hidden from the viewer. */
export const ThingRef = z.object({
  kind: Kind,
  id: z.int(),
  label: z.string().optional(),
  hidden: z.literal(true).optional(),
});
export type ThingRef = z.infer<typeof ThingRef>;

const Param = z.union([z.string(), z.number(), ThingRef, z.array(ThingRef)]);
export type Param = z.infer<typeof Param>;

/** What is wrong, where, and with what; sentences are made from it in the translation catalogue. */
export const Problem = z.object({
  code: ProblemCodeSchema,
  severity: Severity,
  /** The field of the request or section it belongs to. */
  field: z.string().optional(),
  params: z.record(z.string(), Param),
});
export type Problem = z.infer<typeof Problem>;

/** Problem details of RFC 9457 with our list. */
export const ProblemDetails = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  problems: z.array(Problem),
});
export type ProblemDetails = z.infer<typeof ProblemDetails>;
