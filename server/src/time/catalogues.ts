import type {
  Catalogue,
  ConditionOf,
  FieldSetting,
  OwnField,
  OwnRole,
  OwnSection,
  Viewer,
} from '@gremium/contract';
import { ownSections, preset } from '@gremium/contract';
import { Successors } from '../access/successors.sql';
import { type Db, one } from '../database/sql';
import { definitions, lastDefined } from './catalogues.sql';

/** Days of things, as columns of equal length. */
export type Lines = { things: number[]; from: string[]; until: string[] };
/** What reports to somebody, as of an entry. */
export type LinesBelow = { positions: Lines; placements: Lines };

/** Who asks, with the sections there are while they do; and what reports to them, where a scope of theirs asks that. */
export type Seer = Viewer & {
  catalogue: Catalogue;
  /** The codes of the roles that they have today. */
  holds: readonly string[];
  below?: Partial<Record<ConditionOf<'reports'>['depth'], LinesBelow>>;
};

type Definitions = {
  number: number;
  sections: { id: number; values: OwnSection }[];
  fields: { id: number; values: OwnField }[];
  settings: { id: number; values: FieldSetting }[];
  roles: { id: number; values: OwnRole }[];
};

/** The catalogue of now: the sections the program knows, and those that entries defined. Read again when one defines more. */
export class Catalogues {
  private known: Catalogue;
  /** Units that went into others: who was given one has its successor. */
  readonly successors = new Successors();
  private readonly reading = new Map<number, Promise<Catalogue>>();
  private defined: Definitions = { number: 0, sections: [], fields: [], settings: [], roles: [] };

  /** `base`: the sections the program knows. */
  constructor(readonly base: Catalogue = preset) {
    this.known = base;
  }

  /** As it is once entry `number` is in: whoever was told of a definition never answers without it. */
  async knowing(db: Db, number: number): Promise<Catalogue> {
    if (this.known.number >= number) return this.known;
    const read = this.reading.get(number) ?? this.read(db).finally(() => this.reading.delete(number));
    this.reading.set(number, read);
    return read;
  }

  /** As it is now. */
  async now(db: Db): Promise<Catalogue> {
    const { defined } = await one<{ defined: number }>(db, lastDefined);
    return this.knowing(db, defined);
  }

  /** What each own section and field says of itself (labels, help), as last read. */
  get definitions(): Definitions {
    return this.defined;
  }

  private async read(db: Db): Promise<Catalogue> {
    const found = await one<Definitions>(db, definitions);
    if (found.number > this.known.number) {
      const own = ownSections(found.sections, found.fields);
      this.known = this.base.with(own, found.number, found);
      this.defined = found;
    }
    return this.known;
  }
}
