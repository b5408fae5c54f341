// npm run verify-journal: works the chain of the journal out again from the rows as they stand.
import { ownerPool, verifyJournal } from '@gremium/server';
import { databaseUrl } from './database-url.mjs';

const { url, release } = await databaseUrl();
const pool = ownerPool(url);
const { entries, rows, faults } = await verifyJournal(pool);
await pool.end();
release();
for (const fault of faults.slice(0, 50)) console.log(`! ${fault}`);
console.log(
  faults.length === 0
    ? `The journal is whole: ${entries} entries over ${rows} versions, every digest as recorded.`
    : `${faults.length} faults in ${entries} entries over ${rows} versions.`,
);
process.exitCode = faults.length === 0 ? 0 : 1;
