import type { Columns } from '../time/columns';
import { Places } from '../structure/places';
import { Presences } from './presences';
import { Reporting } from '../access/reporting';

/** The register in memory with what is worked out of it: ask for `places` and `presences` anew after each change. */
export class Facts {
  private readonly ownPlaces: Places;
  private readonly ownPresences: Presences;
  /** Who reports to whom. */
  readonly reporting: Reporting;

  constructor(readonly columns: Columns) {
    this.ownPlaces = new Places(columns);
    this.ownPresences = new Presences(columns);
    this.reporting = new Reporting(columns);
  }

  get places(): Places {
    return this.ownPlaces.current();
  }

  get presences(): Presences {
    return this.ownPresences.current();
  }
}
