// Whether Gremium runs in this folder already: one process at a time starts and stops the private database.
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { Refusal } from './setup.mjs';

const isAlive = (pid, script) => {
  try {
    process.kill(pid, 0);
    // a number may be used again after a restart of the machine: it must be one of ours
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(script);
  } catch (error) {
    return error.code === 'EPERM';
  }
};

const ofStart = {
  script: 'start.mjs',
  said: ({ pid, port }) =>
    `Gremium runs in this folder already (process ${pid}, port ${port}). Use that one, or stop it first: kill ${pid}`,
};

/** Claims a folder for this process until it ends; refuses where another one of the script has it. Returns how to let go. */
export const claimFolder = (folder, { script, said } = ofStart) => {
  mkdirSync(folder, { recursive: true });
  const file = path.join(folder, 'running');
  for (let attempt = 1; attempt <= 5; attempt++) {
    try {
      writeFileSync(file, JSON.stringify({ pid: process.pid, port: process.env.GREMIUM_PORT ?? '4680' }), {
        flag: 'wx',
      });
      const letGo = () => rmSync(file, { force: true });
      process.on('exit', letGo);
      return letGo;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
      const other = readKept(file);
      if (other.pid && isAlive(other.pid, script)) throw new Refusal(said(other));
      rmSync(file, { force: true }); // left by one that was killed
    }
  }
  throw new Refusal(`Another start is under way in this folder (${file}).`);
};

const readKept = (file) => {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return {};
  }
};
