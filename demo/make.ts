import type { Day } from '@gremium/contract';
import type { Pool } from 'pg';
import { makeAccounts } from './accounts';
import { loadHistory } from './load';
import { Simulation } from './simulate';
import { tellStories } from './stories';

export const SEED = 4680;

/** The demo's history at an anchor date: the same everywhere, from one seed. */
export const makeHistory = (anchor: Day, people = 1250, checkLaws = false) => {
  const simulation = new Simulation({ seed: SEED, anchor, people, checkLaws });
  simulation.run();
  tellStories(simulation);
  return simulation.history;
};

/** Fills an empty database with the demo. */
export const fillWithDemo = async (owner: Pool, anchor: Day, people = 1250): Promise<void> => {
  await loadHistory(owner, makeHistory(anchor, people));
  await makeAccounts(owner);
};
