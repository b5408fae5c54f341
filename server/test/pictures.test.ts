// Photos and the logo over HTTP: known by their content, bounded, cut and written anew, served by right, undone.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Endpoint, type Problem, endpoints } from '@gremium/contract';
import { deflateSync } from 'node:zlib';
import sharp from 'sharp';
import type { Client } from './harness';
import { type Running, asDemo, many, one, sql, startServer } from './harness';
import { undoBy } from './moving';

let running: Running;
let admin: Client;
let fleet: Client;
let audit: Client;
beforeAll(async () => {
  running = await startServer('demo');
  [admin, fleet, audit] = [
    await asDemo(running.address, 'admin'),
    await asDemo(running.address, 'fleet'),
    await asDemo(running.address, 'audit'),
  ];
});
afterAll(() => running.close());

const send = async (
  client: Client,
  { path, method }: Endpoint,
  id: number | null,
  body: Buffer | string,
  query = '',
) => {
  const response = await fetch(`${running.address}${path.replace(':id', String(id))}${query}`, {
    method,
    headers: { cookie: client.cookie, 'content-type': 'application/octet-stream' },
    body: body as never,
  });
  const reply = (await response.json()) as { entry: number; problems?: Problem[] };
  return { status: response.status, entry: reply.entry, problems: reply.problems ?? [] };
};

const get = (client: Client | null, path: string) =>
  fetch(`${running.address}${path}`, client ? { headers: { cookie: client.cookie } } : {});
const photoOf = (client: Client, id: number) => get(client, `/api/people/${id}/photo`);

// The first quarter red, the others green, blue, white: what is cut shows.
const quarters = (width: number, height: number) => {
  const part = (left: number, top: number, background: string) => ({
    input: { create: { width: width / 2, height: height / 2, channels: 3 as const, background } },
    left,
    top,
  });
  return sharp({ create: { width, height, channels: 3, background: '#ffffff' } }).composite([
    part(0, 0, '#ff0000'),
    part(width / 2, 0, '#00ff00'),
    part(0, height / 2, '#0000ff'),
  ]);
};
const middleOf = async (bytes: ArrayBuffer) => {
  const { data, info } = await sharp(Buffer.from(bytes)).raw().toBuffer({ resolveWithObject: true });
  const at = (Math.floor(info.height / 2) * info.width + Math.floor(info.width / 2)) * info.channels;
  return {
    size: [info.width, info.height],
    colour: [...data.subarray(at, at + 3)].map((n) => Math.round(n / 64) * 64),
  };
};

// somebody on a vessel, somebody in no part of Fleet, without a photo
const somebody = async (inFleet: boolean): Promise<number> => {
  const { id } = await one<{ id: number }>(
    running.owner,
    sql`select e.person_id as id from employment_version e
      join placement_version v on v.employment_id = e.employment_id and v.superseded_by is null and v.valid_until = 'infinity'
      join position_version p on p.position_id = v.position_id and p.superseded_by is null and p.valid_until = 'infinity'
      where e.superseded_by is null and e.valid_until = 'infinity' and v.kind = 'primary'
        and not exists (select from person_photo_version f where f.person_id = e.person_id)
        and (p.unit_id in (select b.unit_id from branch_periods((select unit_id from unit_version
          where name = 'Fleet' and superseded_by is null and valid_until = 'infinity')) b)) = ${inFleet}
      order by 1 limit 1`,
  );
  return id;
};

describe('a photo', () => {
  test('is cut to the square asked for, upright, and without what else was in the file', async () => {
    const id = await somebody(true);
    expect((await photoOf(admin, id)).status).toBe(404);
    const sent = await quarters(400, 600)
      .withExif({ IFD0: { Copyright: 'secret place' } })
      .jpeg()
      .toBuffer();
    const { status, entry } = await send(admin, endpoints.recordPhoto, id, sent, '?left=200&top=0&edge=150');
    expect(status).toBe(200);
    const served = await photoOf(admin, id);
    expect(served.headers.get('content-type')).toBe('image/jpeg');
    const bytes = await served.arrayBuffer();
    // as recorded by a moment before, there was none
    const before = '?recordedBy=2026-11-20T10:00:00.000Z';
    expect((await get(admin, `/api/people/${id}/photo${before}`)).status).toBe(404);
    expect(await middleOf(bytes)).toEqual({ size: [320, 320], colour: [0, 256, 0] });
    expect(Buffer.from(bytes).includes('secret')).toBe(false);
    // lying on its side, turned by what the file says: the square is one of the upright picture
    const lying = await quarters(400, 600).withMetadata({ orientation: 6 }).jpeg().toBuffer();
    await send(admin, endpoints.recordPhoto, id, lying, '?left=350&top=50&edge=100');
    expect((await middleOf(await (await photoOf(admin, id)).arrayBuffer())).colour).toEqual([256, 0, 0]);
    await undoBy(admin, entry);
    expect((await photoOf(admin, id)).status).toBe(404);
  });

  test('is taken off, and is gone with the person where the hire is undone', async () => {
    const [{ id, number }] = (await many(
      running.owner,
      sql`select f.person_id as id, n.number from person_photo_version f join entry n on n.id = f.recorded_by
        where f.superseded_by is null order by n.number desc limit 1`,
    )) as [{ id: number; number: number }];
    expect((await photoOf(admin, id)).status).toBe(200);
    await admin.call(endpoints.removePhoto, { params: { id } });
    expect((await photoOf(admin, id)).status).toBe(404);
    await undoBy(admin, number);
    expect((await photoOf(admin, id)).status).toBe(404);
  });

  test('of whom one may not see is answered as that of nobody; written by whom it may be', async () => {
    const [inside, outside] = [await somebody(true), await somebody(false)];
    const sent = await quarters(40, 40).png().toBuffer();
    for (const id of [inside, outside])
      expect((await send(admin, endpoints.recordPhoto, id, sent)).status).toBe(200);
    expect((await photoOf(fleet, inside)).status).toBe(200);
    const [hidden, nobody] = [await photoOf(fleet, outside), await photoOf(fleet, 999_999_999)];
    expect([hidden.status, nobody.status]).toEqual([404, 404]);
    const said = async (response: Response) => ((await response.json()) as { problems: Problem[] }).problems;
    expect(await said(hidden)).toEqual(await said(nobody));
    expect((await send(fleet, endpoints.recordPhoto, outside, sent)).status).toBe(404);
    expect((await send(fleet, endpoints.recordPhoto, inside, sent)).status).toBe(200);
    expect((await send(audit, endpoints.recordPhoto, inside, sent)).status).toBe(403);
    expect((await get(null, `/api/people/${inside}/photo`)).status).toBe(401);
  });
});

describe('what is no picture', () => {
  // a picture that says it is 50,000 pixels high and wide, and holds hardly anything
  const huge = (edge: number): Buffer => {
    const chunk = (type: string, data: Buffer) => {
      const body = Buffer.concat([Buffer.from(type), data]);
      const [size, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
      size.writeUInt32BE(data.length);
      sum.writeUInt32BE(crc(body));
      return Buffer.concat([size, body, sum]);
    };
    const head = Buffer.alloc(13);
    head.writeUInt32BE(edge, 0);
    head.writeUInt32BE(edge, 4);
    head.set([8, 2], 8);
    return Buffer.concat([
      Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
      chunk('IHDR', head),
      chunk('IDAT', deflateSync(Buffer.alloc(1000))),
      chunk('IEND', Buffer.alloc(0)),
    ]);
  };
  const crc = (bytes: Buffer): number => {
    let sum = 0xffffffff;
    for (const byte of bytes) {
      sum ^= byte;
      for (let bit = 0; bit < 8; bit++) sum = sum & 1 ? (sum >>> 1) ^ 0xedb88320 : sum >>> 1;
    }
    return (sum ^ 0xffffffff) >>> 0;
  };

  test('is refused in words, quickly, and nothing is written', async () => {
    const id = await somebody(true);
    const { number: before } = await one<{ number: number }>(
      running.owner,
      sql`select number from journal_head`,
    );
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>';
    const wrong: [string, Buffer | string, string][] = [
      ['50,000 × 50,000 pixels', huge(50_000), 'picture_too_large'],
      ['a drawing with a script', svg, 'picture_unread'],
      ['a page named .png', '<!doctype html><script>alert(1)</script>', 'picture_unread'],
      ['a picture cut off', (await quarters(400, 400).jpeg().toBuffer()).subarray(0, 700), 'picture_unread'],
      ['an animation of another kind', Buffer.from('GIF89a'), 'picture_unread'],
      ['nothing', '', 'file_empty'],
    ];
    for (const [what, body, code] of wrong) {
      const began = performance.now();
      const { status, problems } = await send(admin, endpoints.recordPhoto, id, body);
      expect([what, status >= 400 && status < 500, problems.map((one) => one.code)]).toEqual([
        what,
        true,
        [code],
      ]);
      expect(performance.now() - began).toBeLessThan(5000);
    }
    const { number } = await one<{ number: number }>(running.owner, sql`select number from journal_head`);
    expect(number).toBe(before);
  });

  test('eleven million bytes are too many', async () => {
    const { status } = await send(
      admin,
      endpoints.recordPhoto,
      await somebody(true),
      Buffer.alloc(11_000_000, 1),
    );
    expect([413, 422]).toContain(status);
  });
});

describe('the logo', () => {
  test('is made to fit, keeps its ground, and is shown at the entrance; its undo takes it back', async () => {
    expect((await get(null, '/api/logo')).status).toBe(404);
    const sent = await sharp({
      create: { width: 960, height: 160, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
    })
      .png()
      .toBuffer();
    expect((await send(fleet, endpoints.recordLogo, null, sent)).status).toBe(403);
    const { entry } = await send(admin, endpoints.recordLogo, null, sent);
    const { logo } = await admin.call(endpoints.entrance, {});
    expect(logo).toMatch(/^[0-9a-f]{64}$/);
    const served = await get(null, '/api/logo');
    expect(served.headers.get('content-type')).toBe('image/png');
    const { width, height, hasAlpha } = await sharp(Buffer.from(await served.arrayBuffer())).metadata();
    expect([width, height, hasAlpha]).toEqual([480, 80, true]);
    await undoBy(admin, entry);
    expect((await get(null, '/api/logo')).status).toBe(404);
  });
});
