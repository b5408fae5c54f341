// A view in the address: as JSON in letters that an address may have, so that a link reopens just what was seen.
import { type ReportFieldOut, ViewDefinition } from '@gremium/contract';

const toBytes = (text: string): Uint8Array => new TextEncoder().encode(text);

/** A view as it stands in an address. */
export const encodeView = (view: ViewDefinition): string =>
  btoa(String.fromCharCode(...toBytes(JSON.stringify(view))))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .replaceAll('=', '');

/** A view out of an address; null where it is none. */
export const decodeView = (text: string | null): ViewDefinition | null => {
  if (!text) return null;
  try {
    const bytes = Uint8Array.from(atob(text.replaceAll('-', '+').replaceAll('_', '/')), (letter) =>
      letter.charCodeAt(0),
    );
    const read = ViewDefinition.safeParse(JSON.parse(new TextDecoder().decode(bytes)));
    return read.success ? read.data : null;
  } catch {
    return null;
  }
};

const HERE = 'employment.status in ["at_work", "away"]';

/** What a new report about a subject begins with. */
export const freshView = (subject: string): ViewDefinition => {
  const name = subject as ViewDefinition['subject'];
  const base = { condition: '', groups: [], order: [] };
  if (subject === 'person_name')
    return {
      ...base,
      subject: name,
      columns: ['person_name.name', 'position.title', 'unit.name'].map((field) => ({ field })),
      condition: HERE,
      order: [{ field: 'person_name.name', down: false }],
    };
  const first = {
    position: ['position.title', 'position.code', 'unit.name'],
    unit: ['unit.name', 'unit.code'],
    job: ['job.name', 'job.code'],
    grade: ['grade.name', 'grade.code'],
    entry: ['entry.number', 'entry.recordedOn', 'entry.act', 'entry.personId', 'entry.account'],
    movement: ['movement.recordedOn', 'movement.act', 'movement.personId', 'movement.changedFrom'],
  }[subject] ?? [`${subject}.inEffectFrom`];
  const isLedger = subject === 'entry' || subject === 'movement';
  return {
    ...base,
    subject: name,
    columns: first.map((field) => ({ field })),
    ...(isLedger ? { period: { from: 'on-30', until: 'on' } } : {}),
  };
};

/** Fields by their ids. */
export const byId = (fields: readonly ReportFieldOut[]): ReadonlyMap<string, ReportFieldOut> =>
  new Map(fields.map((field) => [field.id, field]));
