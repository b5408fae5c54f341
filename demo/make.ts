import type { Day } from '@gremium/contract';
import { keepPicture, many } from '@gremium/server';
import type { Pool } from 'pg';
import { makeAccounts } from './accounts';
import { loadHistory } from './load';
import { drawPortraits } from './portraits';
import { Simulation } from './simulate';
import { tellStories } from './stories';

export const SEED = 4680;

/** The demo's history at an anchor date: the same everywhere, from one seed. */
export const makeHistory = (anchor: Day, people = 1250, checkLaws = false, photos: string[] = []) => {
  const simulation = new Simulation({ seed: SEED, anchor, people, checkLaws, photos });
  simulation.run();
  tellStories(simulation);
  return simulation.history;
};

/** Fills an empty database with the demo. */
export const fillWithDemo = async (owner: Pool, anchor: Day, people = 1250): Promise<void> => {
  const portraits = await drawPortraits();
  const photos = portraits.map(({ digest }) => digest);
  await loadHistory(owner, makeHistory(anchor, people, false, photos));
  for (const portrait of portraits) await many(owner, keepPicture(portrait));
  await makeAccounts(owner);
};
