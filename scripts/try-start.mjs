// Tries npm start as somebody new would: it comes up, an administrator signs in, a second start says that it runs already
// and changes nothing, and stopped it leaves nothing running. For .ci/run, in a clean checkout.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { freePort } from './cluster.mjs';
import { Refusal, main, root } from './setup.mjs';

const MINUTES = 20;

const start = (port) => {
  const env = { ...process.env, GREMIUM_PORT: String(port) };
  const child = spawn('npm', ['start'], {
    cwd: root,
    env,
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: true,
  });
  let said = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (text) => {
      said += text;
      process.stdout.write(text);
    });
  return { child, said: () => said, ended: once(child, 'exit') };
};

const until = async (what, isSo, over = Promise.race([])) => {
  const most = Date.now() + MINUTES * 60_000;
  let isOver = false;
  void over.then(() => (isOver = true));
  while (!(await isSo())) {
    if (isOver || Date.now() > most) throw new Refusal(`npm start: ${what} did not come`);
    await new Promise((resolve) => setTimeout(resolve, 300));
  }
};

const refuse = (isSo, what) => {
  if (!isSo) throw new Refusal(`npm start: ${what}`);
};

// Processes whose command names this folder: the database's, the server's.
const left = () =>
  spawnSync('pgrep', ['-f', `${root}/(\\.data|scripts/start)|/var/lib/gremium`], { encoding: 'utf8' })
    .stdout.split('\n')
    .filter((pid) => pid && Number(pid) !== process.pid);

await main(async () => {
  const before = new Set(left());
  const port = await freePort();
  const address = `http://127.0.0.1:${port}`;
  const first = start(port);
  await until('its address', () => first.said().includes(`Gremium is at ${address}`), first.ended);
  const page = await (await fetch(address)).text();
  refuse(page.includes('<div id="root">'), 'the page is not there');
  const { demoAccounts } = await (await fetch(`${address}/api/entrance`)).json();
  const [admin] = demoAccounts;
  const signIn = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: admin.email, password: admin.password }),
  });
  refuse(signIn.ok, `the administrator could not sign in (${signIn.status})`);

  const second = start(port);
  const [code] = await second.ended;
  refuse(
    code !== 0 && second.said().includes('runs in this folder already'),
    'a second start did not say so',
  );
  refuse((await fetch(`${address}/api/entrance`)).ok, 'a second start stopped the first');

  process.kill(-first.child.pid, 'SIGINT');
  await first.ended;
  const isSilent = () =>
    fetch(address).then(
      () => false,
      () => true,
    );
  await until(
    'the end of what it had started',
    async () => (await isSilent()) && left().every((pid) => before.has(pid)),
  );
  console.log('npm start: came up, let in, refused a second start, left nothing running');
});
