const en = {
  sentence: 'Grades by level',
  search: 'Name or code',
  listed: (count: number) => (count === 1 ? '1 grade' : `${count} grades`),
  none: 'No grade like this on this day.',
  choose: 'Choose a grade to see its record.',
  add: 'New grade',
  level: (level: number) => `Level ${level}`,
  steps: (count: number) => (count === 1 ? '1 step' : `${count} steps`),
  positions: (count: number, shown: string) => (count === 1 ? '1 position' : `${shown} positions`),
  holders: (count: number, shown: string) => (count === 1 ? '1 person' : `${shown} people`),
  outside: 'Paid outside the range',
  outsideNone: 'Everybody whose pay you may see is paid inside the range.',
  outsideSome: (count: string, shown: string) => `${shown} of ${count}`,
  outsideCount: (count: number, shown: string) =>
    count === 1 ? '1 is paid outside the range' : `${shown} are paid outside the range`,
  compaRatio: 'Pay ÷ middle',
  pay: 'Pay',
  who: 'Who',
  toSteps: 'Who reaches the next step',
};

const de: typeof en = {
  sentence: 'Entgeltgruppen nach Ebene',
  search: 'Name oder Code',
  listed: (count) => (count === 1 ? '1 Entgeltgruppe' : `${count} Entgeltgruppen`),
  none: 'An diesem Tag keine solche Entgeltgruppe.',
  choose: 'Wählen Sie eine Entgeltgruppe, um ihren Datensatz zu sehen.',
  add: 'Neue Entgeltgruppe',
  level: (level) => `Ebene ${level}`,
  steps: (count) => (count === 1 ? '1 Stufe' : `${count} Stufen`),
  positions: (count, shown) => (count === 1 ? '1 Planstelle' : `${shown} Planstellen`),
  holders: (count, shown) => (count === 1 ? '1 Person' : `${shown} Personen`),
  outside: 'Außerhalb der Spanne bezahlt',
  outsideNone: 'Alle, deren Entgelt Sie sehen dürfen, liegen in der Spanne.',
  outsideSome: (count, shown) => `${shown} von ${count}`,
  outsideCount: (count, shown) =>
    count === 1 ? '1 liegt außerhalb der Spanne' : `${shown} liegen außerhalb der Spanne`,
  compaRatio: 'Entgelt ÷ Mitte',
  pay: 'Entgelt',
  who: 'Wer',
  toSteps: 'Wer die nächste Stufe erreicht',
};

/** What the pages of grades say. */
export const gradeWords = { en, de };
