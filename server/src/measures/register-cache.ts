import type { Row } from '@gremium/contract';
import { sectionNames } from '@gremium/contract';
import { type Presence, Register, allPresences } from '@gremium/core';
import type { Pool } from 'pg';
import { many } from '../database/sql';
import { headNumber } from '../time/lens';
import { allRows } from '../time/version.sql';

export type Whole = { register: Register; presences: () => Presence[] };

/**
 * The whole register as now believed, kept until a later entry is there; for another moment it is loaded anew. What comes
 * out of it is cut to the viewer's scope by whoever asks (outline, figures): nothing of it is shown as it is.
 */
export class RegisterCache {
  private number = -1;
  private now: Promise<Whole> | undefined;

  constructor(private readonly pool: Pool) {}

  async whole(by: number | null): Promise<Whole> {
    if (by !== null) return this.load(by);
    const number = await headNumber(this.pool);
    if (!this.now || number !== this.number) {
      this.number = number;
      this.now = this.load(null);
      this.now.catch(() => (this.now = undefined));
    }
    return this.now;
  }

  private async load(by: number | null): Promise<Whole> {
    const register = new Register();
    for (const section of sectionNames)
      register.apply({ recorded: await many<Row>(this.pool, allRows(section, by)), superseded: [] });
    let presences: Presence[] | undefined;
    return { register, presences: () => (presences ??= allPresences(register)) };
  }
}
