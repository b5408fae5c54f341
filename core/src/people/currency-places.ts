const known = new Map<string, number>();

/** Places after the point that amounts in a currency have (ISO 4217, as the platform knows it): 2 of EUR, 0 of JPY. */
export const placesOf = (currency: string): number => {
  const found = known.get(currency);
  if (found !== undefined) return found;
  const places = /^[A-Z]{3}$/.test(currency)
    ? (new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ??
      2)
    : 2;
  known.set(currency, places);
  return places;
};

/** Whether an amount (decimal text) has more places than its currency. */
export const isTooFine = (amount: string, currency: string): boolean =>
  (amount.split('.')[1] ?? '').replace(/0+$/, '').length > placesOf(currency);
