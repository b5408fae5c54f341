import type { SlipRow } from './slip-declared';

/** What is seldom said of a position, in the order of reading: when it is worked, what it asks, what it costs. */
export const positionRest: readonly SlipRow[] = [
  ['startTime', 'endTime'],
  ['temporary', 'remote'],
  ['seasonFirst', 'seasonLast'],
  ['probationMonths', 'clearanceId'],
  ['agreementId', 'unionId'],
  ['bargainingUnitId', 'reasonId'],
  ['budget', 'budgetCurrency'],
  'notes',
];
