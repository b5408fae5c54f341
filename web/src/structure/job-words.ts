const en = {
  sentence: 'Jobs',
  shown: 'Which jobs',
  show: { active: 'in use', pattern: 'kept as patterns', retired: 'retired', any: 'of any kind' },
  add: 'New job',
  pattern: 'pattern',
  usedUp: 'the number allowed is used up',
  asks: 'What it asks',
  search: 'Name or code',
  listed: (count: number) => (count === 1 ? '1 job' : `${count} jobs`),
  none: 'No job like this on this day.',
  noFamily: 'no family',
  retired: 'retired',
  choose: 'Choose a job to see its record.',
  positions: (count: number, shown: string) => (count === 1 ? '1 position' : `${shown} positions`),
  positionsOf: (shown: string, most: string) => `${shown} of ${most} positions allowed`,
  holders: (count: number, shown: string) =>
    count === 1 ? '1 person holds one' : `${shown} people hold one`,
  free: (shown: string) => `${shown} with something free`,
};

const de: typeof en = {
  sentence: 'Tätigkeiten',
  shown: 'Welche Tätigkeiten',
  show: { active: 'in Gebrauch', pattern: 'als Muster', retired: 'stillgelegt', any: 'jeder Art' },
  add: 'Neue Tätigkeit',
  pattern: 'Muster',
  usedUp: 'die erlaubte Zahl ist ausgeschöpft',
  asks: 'Was sie verlangt',
  search: 'Name oder Code',
  listed: (count) => (count === 1 ? '1 Tätigkeit' : `${count} Tätigkeiten`),
  none: 'An diesem Tag keine solche Tätigkeit.',
  noFamily: 'ohne Familie',
  retired: 'stillgelegt',
  choose: 'Wählen Sie eine Tätigkeit, um ihren Datensatz zu sehen.',
  positions: (count, shown) => (count === 1 ? '1 Planstelle' : `${shown} Planstellen`),
  positionsOf: (shown, most) => `${shown} von ${most} erlaubten Planstellen`,
  holders: (count, shown) => (count === 1 ? '1 Person hat eine' : `${shown} Personen haben eine`),
  free: (shown) => `${shown} mit etwas Freiem`,
};

/** What the pages of jobs say. */
export const jobWords = { en, de };
