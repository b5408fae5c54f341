// Jest's global setup where no database is needed: the server as built, of the sources as they are.
import { buildServer } from './server-build.mjs';
import { writeShown } from './server-in-tests.mjs';

export default async () => {
  await buildServer();
  await writeShown();
};
