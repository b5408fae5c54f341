// npm run migrate: brings the schema of DATABASE_URL (or of the private database) up to date without starting the server.
import { migrate, ownerPool } from '@gremium/server';
import { databaseUrl } from './database-url.mjs';

const { url, release } = await databaseUrl();
const pool = ownerPool(url);
const applied = await migrate(pool);
await pool.end();
release();
console.log(applied.length > 0 ? `Applied: ${applied.join(', ')}` : 'The schema is up to date.');
