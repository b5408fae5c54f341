// The lists of a new register are filled with what every organisation needs, as an entry like any other.
import type { Viewer } from '@gremium/contract';
import { BEGINNING, Draft } from '@gremium/core';
import { type Server, act } from '../time/act';
import { shippedEntries, shippedLeastAges } from './shipped-lists';

/** Writes what is shipped, where no list has an entry yet; does nothing in a register that somebody began to fill. */
export const shipLists = async (server: Server, viewer: Viewer): Promise<void> => {
  await act(server, viewer, {
    kind: 'set_up',
    reason: 'Lists as they are shipped',
    preview: false,
    locks: [],
    alone: true,
    decide: async ({ near, newId, entry }) => {
      await near.loadAll(['list_entry']);
      const register = await near.load([]);
      const draft = new Draft(register, newId, entry);
      const isEmpty = [...register.all('list_entry')].length === 0;
      if (isEmpty) {
        for (const values of shippedEntries) draft.create('list_entry', BEGINNING, values as never);
        for (const values of shippedLeastAges) draft.create('least_age', BEGINNING, values);
      }
      const { change, problems } = draft;
      draft.discard();
      return { change, problems, result: undefined };
    },
  });
};
