const en = {
  positions: 'Positions',
  all: (count: number, shown: string) => (count === 1 ? '1 position' : `${shown} positions`),
  some: (count: string, shown: string) => `${shown} of ${count} positions`,
  none: 'No position on this day. Make the first one.',
  held: 'Held',
};

const de: typeof en = {
  positions: 'Planstellen',
  all: (count, shown) => (count === 1 ? '1 Planstelle' : `${shown} Planstellen`),
  some: (count, shown) => `${shown} von ${count} Planstellen`,
  none: 'An diesem Tag keine Planstelle. Legen Sie die erste an.',
  held: 'Besetzt',
};

/** What tables of positions say. */
export const positionLineWords = { en, de };
