import { type KeptMovement, movementEndpoints } from '@gremium/contract';
import { call } from '../api';
import { KeptStore, type Local } from '../time/kept';

/** A movement in preparation: its input as far as it is known, and what was typed of it. */
export type Prepared = Pick<KeptMovement, 'key' | 'kind' | 'about' | 'input' | 'typed' | 'names'>;
export type LocalMovement = Local<Prepared>;

/** Movements that are being prepared. */
export const keptMovements = new KeptStore<Prepared>({
  load: async () => (await call(movementEndpoints.movements, {})).movements,
  keep: ({ key, kind, about, input, typed }, options) =>
    call(movementEndpoints.keepMovement, { params: { key }, body: { kind, about, input, typed } }, options),
  discard: (key) => call(movementEndpoints.discardMovement, { params: { key } }),
});
