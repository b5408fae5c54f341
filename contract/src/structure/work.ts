// What jobs and positions say alike: hours on average, and what whoever does the work must bring.
import { choice, lists, whole } from '../time/section';

/** The period over which hours a week are an average; none: each week. */
export const AveragedOver = () => choice('week', 'month', 'year', 'season');

/** A requirement: one of skills, certificates or levels of education; any one of those named meets it, and so does a higher one. */
export const requirement = {
  skillIds: lists('skill').nullable(),
  certificateIds: lists('certificate').nullable(),
  educationIds: lists('education').nullable(),
  /** Of a skill: from 1 (knows of it) to 5 (teaches it). */
  level: whole(1, 5).nullable(),
  needed: choice('required', 'wished'),
};
