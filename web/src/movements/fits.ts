import type { ListEntry } from '@gremium/contract';

type Acts = NonNullable<ListEntry['flags']['acts']>[number];

/** Reasons kept for an act; every entry of other lists. */
export const listedFor =
  (act: Acts) =>
  (_path: string, { list, flags }: ListEntry): boolean =>
    list !== 'reason' || (flags.acts?.includes(act) ?? false);
