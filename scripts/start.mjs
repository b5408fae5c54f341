// npm start: installs what is missing, starts a private database (or uses DATABASE_URL), builds the server and the pages, serves.
import { spawn } from 'node:child_process';
import path from 'node:path';
import { buildPages } from './pages.mjs';
import { claimFolder } from './running.mjs';
import { ensureNode, ensurePackages, main, root } from './setup.mjs';

const data = path.join(root, '.data');

// its packages may have to be installed first
const buildServer = async () => (await import('./server-build.mjs')).buildServer();

const own = async () => {
  const { startCluster } = await import('./cluster.mjs');
  const letGo = claimFolder(data);
  console.log('Starting the private database …');
  const cluster = await startCluster(path.join(data, 'pg'));
  const stop = () => {
    cluster.stop();
    letGo();
  };
  return { url: `${cluster.url}/postgres`, demo: 'yes', stop };
};

const serve = (url, demo) =>
  new Promise((resolve) => {
    const child = spawn(process.execPath, ['--enable-source-maps', 'server/dist/main.js'], {
      cwd: root,
      stdio: 'inherit',
      env: { ...process.env, DATABASE_URL: url, GREMIUM_DEMO: demo },
    });
    // Ctrl-C reaches the child as well; this process waits for it and then stops the database.
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill('SIGTERM'));
    child.on('exit', (code) => resolve(code ?? 1));
  });

await main(async () => {
  ensureNode();
  ensurePackages();
  const given = process.env.DATABASE_URL;
  const database = given ? { url: given, demo: 'no', stop: () => undefined } : await own();
  try {
    await buildServer();
    buildPages();
    process.exitCode = await serve(database.url, database.demo);
  } finally {
    database.stop();
  }
});
