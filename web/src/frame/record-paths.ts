import { type Kind, type RecordKind, recordKinds } from '@gremium/contract';

/** Where the record of each kind of thing stands. */
export const recordPaths: Record<RecordKind, string> = {
  person: '/people',
  position: '/structure/positions',
  unit: '/structure/units',
  job: '/structure/jobs',
};

/** The path of a record. */
export const pathOf = (kind: RecordKind, id: number | string): string => `${recordPaths[kind]}/${id}`;

/** Whether things of a kind have a page of their own. */
export const hasRecord = (kind: Kind): kind is RecordKind => (recordKinds as readonly Kind[]).includes(kind);
