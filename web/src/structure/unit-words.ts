const en = {
  sentence: 'Units in the order of the tree',
  search: 'Name of a unit',
  listed: (count: number) => (count === 1 ? '1 unit' : `${count} units`),
  choose: 'Choose a unit to see its record.',
  figures: 'Figures',
  itself: 'the unit itself',
  branch: 'the whole branch',
  members: 'Members',
  people: (count: number) => (count === 1 ? '1 person' : `${count} people`),
  nobody: 'Nobody works in the unit itself on this day.',
  below: 'Units below',
  noneBelow: 'No unit stands below this one.',
  ledBy: 'led by',
  bridged: 'head position vacant, bridged to',
  noHead: 'Nobody leads it: it has no head position, and none above.',
  needsPosition: 'hires need a position',
  byJob: 'hires by job, the position is made with them',
};

const de: typeof en = {
  sentence: 'Einheiten in der Ordnung des Baums',
  search: 'Name einer Einheit',
  listed: (count) => (count === 1 ? '1 Einheit' : `${count} Einheiten`),
  choose: 'Wählen Sie eine Einheit, um ihren Datensatz zu sehen.',
  figures: 'Zahlen',
  itself: 'die Einheit selbst',
  branch: 'der ganze Zweig',
  members: 'Mitglieder',
  people: (count) => (count === 1 ? '1 Person' : `${count} Personen`),
  nobody: 'An diesem Tag arbeitet niemand in der Einheit selbst.',
  below: 'Einheiten darunter',
  noneBelow: 'Unter dieser steht keine Einheit.',
  ledBy: 'geleitet von',
  bridged: 'Leitung unbesetzt, überbrückt zu',
  noHead: 'Niemand leitet sie: Sie hat keine Leitungsstelle, auch keine darüber.',
  needsPosition: 'Einstellungen brauchen eine Planstelle',
  byJob: 'Einstellung nach Tätigkeit, die Planstelle entsteht dabei',
};

/** What the pages of units say. */
export const unitWords = { en, de };
