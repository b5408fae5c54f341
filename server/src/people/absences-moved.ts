// Why somebody is away was once said by their place, where whoever sees places read it. It is said by absences now, which are
// sensitive: at the first start after that, absences are made of what places say, in one entry that can be undone.
import type { Bound, Moment } from '@gremium/contract';
import { BEGINNING, Draft, RowRegister } from '@gremium/core';
import type { Pool } from 'pg';
import { many, maybeOne } from '../database/sql';
import { transaction } from '../database/transaction';
import { IdSource } from '../time/ids';
import { recordEntry } from '../time/record-entry';
import { type AwayAlone, awayAlone, kindCoded } from './absences-moved.sql';

/** The kind of absences of which nobody said why. */
const UNSAID = { code: 'BEFORE', label: { en: 'Recorded before', de: 'Früher erfasst' } };

/** Makes absences of the hours away beside which none stands; answers how many. Nothing is written where there are none. */
export const moveAbsences = (pool: Pool, now: Moment): Promise<number> =>
  transaction(pool, async (tx) => {
    const found = await many<AwayAlone>(tx, awayAlone);
    if (found.length === 0) return 0;
    const unsaid = await maybeOne<{ id: number }>(tx, kindCoded(UNSAID.code));
    const newId = await new IdSource().reserve(tx, 2 * found.length + 10);
    const entry = newId();
    const draft = new Draft(new RowRegister(), newId, entry);
    const kindOf = (kind: number | null): number => kind ?? unsaidId(draft, unsaid?.id);
    let before: { thing: number; until: Bound; kindId: number; employmentId: number } | undefined;
    for (const { employment: employmentId, from, until, isWhole, away, kind } of found) {
      const kindId = kindOf(kind);
      const isSame =
        before?.employmentId === employmentId && before.kindId === kindId && before.until === from;
      const thing = isSame && before ? before.thing : newId();
      const hours = isWhole ? null : away;
      draft.begin('absence', thing, { from, until }, { employmentId, kindId, hours });
      before = { thing, until, kindId, employmentId };
    }
    const reason = 'Why somebody is away is said by absences';
    await recordEntry(tx, { id: entry, now, kind: 'create', account: 'gremium', reason }, draft.change);
    return found.length;
  });

const unsaidId = (draft: Draft, known: number | undefined): number =>
  known ??
  [...draft.register.all('list_entry')].find(({ values }) => values.code === UNSAID.code)?.thing ??
  draft.create('list_entry', BEGINNING, { list: 'absence_kind', ...UNSAID, flags: {} });
