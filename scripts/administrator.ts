// npm run administrator -- address: makes whoever has the address an administrator, where nobody can let others in any more.
import { makeAdministrator, ownerPool, systemClock } from '@gremium/server';
import { databaseUrl } from './database-url.mjs';

const email = process.argv[2]?.trim().toLowerCase() ?? '';
if (!/^[^\s@]+@[^\s@]+$/.test(email)) {
  console.error('Say whose: npm run administrator -- their@address');
  process.exit(2);
}
const { url, release } = await databaseUrl();
const pool = ownerPool(url);
const { token, expires } = await makeAdministrator(pool, systemClock, email);
await pool.end();
release();
console.log(
  `${email} is an administrator. Until ${expires} the password is set, once, at\n  /password#${token}`,
);
