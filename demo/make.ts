import type { Day } from '@gremium/contract';
import { keepPicture, many, sql } from '@gremium/server';
import type { Pool } from 'pg';
import { crewMember, makeAccounts, teamManager } from './accounts';
import { loadHistory } from './load';
import { tellMovements } from './movements';
import { papers } from './papers';
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

// Files are of whoever sent them: here of the administrator.
const keepPapers = (owner: Pool): Promise<unknown> =>
  many(
    owner,
    sql`insert into kept_file (id, account_id, at, type, bytes, entry)
      select f.id, (select min(id) from account), (select max(moment) from entry), f.type, decode(f.bytes, 'base64'), 1
      from jsonb_to_recordset(${JSON.stringify(
        Object.values(papers).map(({ file, bytes }) => ({ ...file, bytes: bytes.toString('base64') })),
      )}::jsonb) f (id text, type text, bytes text)`,
  );

/** Fills an empty database with the demo. */
export const fillWithDemo = async (owner: Pool, anchor: Day, people = 1250): Promise<void> => {
  const portraits = await drawPortraits();
  const photos = portraits.map(({ digest }) => digest);
  const history = makeHistory(anchor, people, false, photos);
  await loadHistory(owner, history);
  for (const portrait of portraits) await many(owner, keepPicture(portrait));
  await makeAccounts(owner, {
    crew: crewMember(history.register, anchor),
    manager: teamManager(history.register, anchor),
  });
  await keepPapers(owner);
  await tellMovements(owner, history, anchor);
};
