// Files that rows name, over HTTP: typed by their content, bounded, served by the right to see the row and in no other way.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type FileRef, type Problem, endpoints } from '@gremium/contract';
import { createHash } from 'node:crypto';
import JSZip from 'jszip';
import { verifyJournal } from '@gremium/server';
import sharp from 'sharp';
import { type Client, type Running, asDemo, many, one, sql, startServer } from './harness';
import { undoBy } from './moving';

let running: Running;
let admin: Client;
let fleet: Client;
let crew: Client;
let inFleet: number;
let outside: number;

beforeAll(async () => {
  running = await startServer('demo');
  [admin, fleet, crew] = (await Promise.all(
    ['admin', 'fleet', 'crew'].map((who) => asDemo(running.address, who as 'admin')),
  )) as [Client, Client, Client];
  const somebody = async (isInside: boolean) =>
    (
      await one<{ id: number }>(
        running.owner,
        sql`select e.person_id as id from employment_version e
          join placement_version v on v.employment_id = e.employment_id and v.superseded_by is null and v.valid_until = 'infinity'
          join position_version p on p.position_id = v.position_id and p.superseded_by is null and p.valid_until = 'infinity'
          where e.superseded_by is null and e.valid_until = 'infinity' and v.kind = 'primary'
            and (p.unit_id in (select b.unit_id from branch_periods((select unit_id from unit_version
              where name = 'Fleet' and superseded_by is null and valid_until = 'infinity')) b)) = ${isInside}
          order by 1 limit 1`,
      )
    ).id;
  [inFleet, outside] = [await somebody(true), await somebody(false)];
});
afterAll(() => running.close());

type Sent = { status: number; file: FileRef; codes: string[] };
const send = async (client: Client, name: string, body: Buffer | string): Promise<Sent> => {
  const response = await fetch(`${running.address}/api/kept-files?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    headers: { cookie: client.cookie, 'content-type': 'application/octet-stream' },
    body: body as never,
  });
  const reply = (await response.json()) as FileRef & { problems?: Problem[] };
  return { status: response.status, file: reply, codes: (reply.problems ?? []).map(({ code }) => code) };
};

const edit = (personId: number, file: FileRef, section = 'document') => ({
  section,
  edit: {
    mode: 'create' as const,
    from: '2026-11-01',
    until: 'infinity',
    values: { personId, title: 'Paper', file },
  },
});
const record = (client: Client, personId: number, file: FileRef, section = 'document') =>
  client.call(endpoints.saveEdits, { body: { edits: [edit(personId, file, section)] } as never });

const get = (client: Client | null, path: string) =>
  fetch(`${running.address}${path}`, client ? { headers: { cookie: client.cookie } } : {});
const pathOf = ({ section, thing, id }: { section: string; thing: number; id: number }) =>
  `/api/file-of/${section}/${thing}/${id}/file`;

const PDF = '%PDF-1.4\n1 0 obj\n<< >>\nendobj\n';

describe('what a file is', () => {
  test('is said by its content: a picture, a workbook, a text; the name follows', async () => {
    const png = await sharp({ create: { width: 4, height: 4, channels: 3, background: '#fff' } })
      .png()
      .toBuffer();
    const zip = new JSZip();
    zip.file(
      '[Content_Types].xml',
      '<?xml version="1.0"?><Types><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
    );
    zip.file('word/document.xml', '<w:document/>');
    const docx = await zip.generateAsync({ type: 'nodebuffer' });
    const kept: [string, Buffer | string, string, string][] = [
      ['scan.png', png, 'png', 'scan.png'],
      // what is a picture by its name and a PDF by its content is a PDF
      ['scan.png', PDF, 'pdf', 'scan.pdf'],
      [
        'Zeugnis Müller',
        'Sehr geehrte Damen und Herren,\nMüller kann schwimmen.',
        'txt',
        'Zeugnis Müller.txt',
      ],
      ['letter.docx', docx, 'docx', 'letter.docx'],
      ['../../etc/passwd', 'root: nobody', 'txt', '.._.._etc_passwd.txt'],
    ];
    for (const [name, body, type, called] of kept) {
      const { status, file } = await send(admin, name, body);
      expect([name, status, file.type, file.name]).toEqual([name, 200, type, called]);
      expect(file.bytes).toBe(Buffer.byteLength(body as string));
      expect(file.id).toMatch(/^[0-9a-f]{32}$/);
    }
  });

  test('a page named .png, a drawing with a script, a program, an archive, nothing: refused in words', async () => {
    const { file: before } = await send(admin, 'a.txt', 'a');
    expect(before.type).toBe('txt');
    const wrong: [string, Buffer | string, string][] = [
      ['photo.png', '<!doctype html><html><script>alert(1)</script></html>', 'file_unread'],
      ['photo.png', '   <HTML><body onload="alert(1)">', 'file_unread'],
      ['logo.svg', '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>', 'file_unread'],
      ['tool.pdf', Buffer.from('7f454c4602010100000000000000000002003e0001000000', 'hex'), 'file_unread'],
      ['all.pdf', await new JSZip().file('a.txt', 'a').generateAsync({ type: 'nodebuffer' }), 'file_unread'],
      ['noise.txt', Buffer.from([0, 1, 2, 200, 255]), 'file_unread'],
      ['empty.pdf', '', 'file_empty'],
    ];
    for (const [name, body, code] of wrong) {
      const { status, codes } = await send(admin, name, body);
      expect([name, status >= 400 && status < 500, codes]).toEqual([name, true, [code]]);
    }
  });

  test('twenty-six million bytes are too many', async () => {
    const { status, codes } = await send(admin, 'large.txt', Buffer.alloc(26_000_000, 'a'));
    expect([[413, 422].includes(status), codes]).toEqual([true, ['body_too_large']]);
  });
});

describe('who gets a file', () => {
  test('whoever may see the row that names it, by its own address and no other; undone, nobody', async () => {
    const { file } = await send(admin, 'contract.pdf', PDF);
    const saved = await record(admin, inFleet, file);
    const row = saved.rows[0] as { section: string; thing: number; id: number };
    const served = await get(admin, `${pathOf(row)}?shown=yes`);
    expect(served.headers.get('content-type')).toBe('application/pdf');
    expect(served.headers.get('content-disposition')).toBe("inline; filename*=UTF-8''contract.pdf");
    expect(served.headers.get('x-content-type-options')).toBe('nosniff');
    expect(await served.text()).toBe(PDF);
    expect((await get(admin, pathOf(row))).headers.get('content-disposition')).toContain('attachment');
    expect((await get(fleet, pathOf(row))).status).toBe(200);
    // the crew member is another person; nobody is signed in
    const said = async (response: Response) => [
      response.status,
      ((await response.json()) as { problems: Problem[] }).problems.map(({ code }) => code),
    ];
    const nobodys = await said(await get(crew, `/api/file-of/document/${row.thing + 1}/${row.id + 1}/file`));
    expect(await said(await get(crew, pathOf(row)))).toEqual(nobodys);
    expect((await get(null, pathOf(row))).status).toBe(401);
    // other rows, other fields, other sections of the same address
    for (const path of [
      `/api/file-of/document/${row.thing}/${row.id + 1}/file`,
      `/api/file-of/document/${row.thing}/${row.id}/title`,
      `/api/file-of/confidential_document/${row.thing}/${row.id}/file`,
      `/api/kept-files/${file.id}`,
    ])
      expect([path, (await get(admin, path)).status]).toEqual([path, 404]);
    const { moment } = await one<{ moment: string }>(
      running.owner,
      sql`select to_char(moment at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as moment from journal_head`,
    );
    await undoBy(admin, saved.entry as number);
    expect((await get(admin, pathOf(row))).status).toBe(404);
    // as it was known before, by the rights of now
    const then = `${pathOf(row)}?recordedBy=${encodeURIComponent(moment)}`;
    expect([(await get(admin, then)).status, (await get(crew, then)).status]).toEqual([200, 404]);
  });

  test('outside one’s part, and confidential without the section named: answered as one that is not there', async () => {
    const { file } = await send(admin, 'outside.pdf', PDF);
    const saved = await record(admin, outside, file);
    expect((await get(fleet, pathOf(saved.rows[0] as never))).status).toBe(404);
    const { file: secret } = await send(admin, 'secret.pdf', PDF);
    const closed = await record(admin, inFleet, secret, 'confidential_document');
    expect((await get(fleet, pathOf(closed.rows[0] as never))).status).toBe(404);
    expect((await get(admin, pathOf(closed.rows[0] as never))).status).toBe(200);
  });

  test('a manager sees no documents of theirs: contracts say what they are paid', async () => {
    const tallinn = await asDemo(running.address, 'tallinn');
    const { sections } = await tallinn.call(endpoints.catalogue, {});
    expect(sections.map(({ name }) => name)).not.toContain('document');
    expect(sections.map(({ name }) => name)).toContain('held_certificate');
  });

  test('a row names only what its writer sent, as it was sent: an id that somebody knows gives nothing', async () => {
    const { file } = await send(admin, 'mine.pdf', PDF);
    const body = (one: FileRef) => ({ body: { edits: [edit(inFleet, one)] } as never });
    for (const one of [file, { ...file, id: '0'.repeat(32) }])
      expect(
        (await fleet.refusal(endpoints.saveEdits, body(one))).problems.map(({ code, field }) => [
          code,
          field,
        ]),
      ).toEqual([['file_unknown', 'file']]);
    for (const one of [
      { ...file, type: 'png' as const },
      { ...file, bytes: 3 },
    ])
      expect((await admin.refusal(endpoints.saveEdits, body(one))).problems.map(({ code }) => code)).toEqual([
        'file_unknown',
      ]);
    const saved = await record(admin, inFleet, file);
    // whoever changes another field of the row leaves the file as it is
    const { thing, id } = saved.rows[0] as { thing: number; id: number };
    const { lastEntry } = { lastEntry: saved.entry as number };
    await fleet.call(endpoints.saveEdits, {
      body: {
        edits: [
          {
            ...{ kind: 'document', id: thing, section: 'document', basedOn: lastEntry },
            edit: { mode: 'mend', row: id, values: { title: 'Another title' } },
          },
        ],
      } as never,
    });
    const named = await many<{ entry: number | null }>(
      running.owner,
      sql`select entry from kept_file where id = ${file.id}`,
    );
    expect(named).toEqual([{ entry: saved.entry }]);
  });

  test('said with another digest it is not the same; bytes changed behind the register are found by the journal', async () => {
    const { file } = await send(admin, 'whole.pdf', PDF);
    expect(file.digest).toBe(createHash('sha256').update(PDF).digest('hex'));
    const other = { ...file, digest: '0'.repeat(64) };
    const refused = await admin.refusal(endpoints.saveEdits, {
      body: { edits: [edit(inFleet, other)] } as never,
    });
    expect(refused.codes).toEqual(['file_unknown']);
    const { entry } = await record(admin, inFleet, file);
    const faults = async () => (await verifyJournal(running.owner)).faults;
    expect(await faults()).toEqual([]);
    const put = (bytes: string) =>
      many(running.owner, sql`update kept_file set bytes = ${Buffer.from(bytes)} where id = ${file.id}`);
    // as long as before
    await put(PDF.replace('1.4', '1.5'));
    expect(await faults()).toEqual([`entry ${entry}: the file whole.pdf is not as it was kept`]);
    await put(PDF);
    const [picture] = await many<{ digest: string; bytes: Buffer }>(
      running.owner,
      sql`select digest, bytes from picture order by digest limit 1`,
    );
    const paint = (bytes: Buffer) =>
      many(running.owner, sql`update picture set bytes = ${bytes} where digest = ${picture?.digest}`);
    await paint(Buffer.from([...(picture?.bytes ?? [])].reverse()));
    expect(await faults()).toEqual([`the picture ${picture?.digest} is not as it was kept`]);
    await paint(picture?.bytes ?? Buffer.alloc(0));
    expect(await faults()).toEqual([]);
  });
});
