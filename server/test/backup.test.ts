// The restore drill, and upgrading what an earlier version left.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, test } from '@jest/globals';
import { migrate, ownerPool, verifyJournal } from '@gremium/server';
import { asDemo, copyDatabase, one, sql, startServer } from './harness';

const script = (name: string, file: string, url: string) => {
  const env = { ...process.env, DATABASE_URL: url, NODE_OPTIONS: '' };
  const { status, stdout, stderr } = spawnSync(process.execPath, [`scripts/${name}.mjs`, file], {
    env,
    encoding: 'utf8',
  });
  return { status, text: stdout + stderr };
};

const emptyDatabase = async (): Promise<string> => {
  const url = await copyDatabase('empty');
  const owner = ownerPool(url);
  await owner.query('drop schema public cascade; create schema public');
  await owner.end();
  return url;
};

describe('backup and restore', () => {
  test('a backup restored elsewhere is the same register with a whole journal', async () => {
    const file = path.join(mkdtempSync(path.join(os.tmpdir(), 'gremium-backup-')), 'demo.backup');
    const from = await copyDatabase('demo');
    expect(script('backup', file, from)).toMatchObject({ status: 0 });
    const to = await copyDatabase('empty');
    expect(script('restore', file, to)).toMatchObject({ status: 0 });
    const [before, after] = [ownerPool(from), ownerPool(to)];
    const head = sql`select number, digest from journal_head`;
    expect(await one(after, head)).toEqual(await one(before, head));
    expect((await verifyJournal(after)).faults).toEqual([]);
    expect(script('restore', '/nowhere', to).text).toContain('Name the backup');
    await Promise.all([before.end(), after.end()]);
  });

  test.each(readdirSync('db/dumps'))(
    'the dump %s of an earlier version is upgraded and serves',
    async (file) => {
      const url = await emptyDatabase();
      expect(script('restore', `db/dumps/${file}`, url)).toMatchObject({ status: 0 });
      const owner = ownerPool(url);
      await migrate(owner);
      const { faults, entries } = await verifyJournal(owner);
      expect([faults, entries > 1000]).toEqual([[], true]);
      const running = await startServer('demo', { url });
      const client = await asDemo(running.address, 'admin');
      expect(client.viewer?.name).toBe('Tuuli Kaskela');
      await running.close();
      await owner.end();
    },
  );
});
