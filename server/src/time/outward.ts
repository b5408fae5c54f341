import type { Row } from '@gremium/contract';

/** A version as it travels. */
export const outward = ({ id, thing, from, until, values }: Row) => ({
  id,
  thing,
  from,
  until,
  values: values as Record<string, unknown>,
});
