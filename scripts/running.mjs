// Whether Gremium runs in this folder already: one process at a time starts and stops the private database.
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { Refusal } from './setup.mjs';

const isAlive = (pid) => {
  try {
    process.kill(pid, 0);
    // a number may be used again after a restart of the machine: it must be one of ours
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('start.mjs');
  } catch (error) {
    return error.code === 'EPERM';
  }
};

/** Claims a folder for this process until it ends; refuses where another one has it. Returns how to let go. */
export const claimFolder = (folder) => {
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
      const { pid, port } = readKept(file);
      if (pid && isAlive(pid))
        throw new Refusal(
          `Gremium runs in this folder already (process ${pid}, port ${port}). Use that one, or stop it first: kill ${pid}`,
        );
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
