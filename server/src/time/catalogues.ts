import type { Catalogue, OwnField, OwnSection, Viewer } from '@gremium/contract';
import { ownSections, preset } from '@gremium/contract';
import { type Db, one, sql } from '../database/sql';

/** Who asks, with the sections there are while they do. */
export type Seer = Viewer & { catalogue: Catalogue };

type Definitions = {
  number: number;
  sections: { id: number; values: OwnSection }[];
  fields: { id: number; values: OwnField }[];
};

// What is believed of each definition, the latest; one whose use ended stays, as its rows do.
const definitions = (by: number | null) => {
  const believed = sql`(${by}::bigint is null and v.superseded_by is null or ${by}::bigint is not null
    and exists (select from entry e where e.id = v.recorded_by and e.number <= ${by}::bigint)
    and not exists (select from entry e where e.id = v.superseded_by and e.number <= ${by}::bigint))`;
  return sql`
    select (select defined from journal_head) as number,
      (select coalesce(json_agg(d), '[]') from (
        select distinct on (own_section_id) own_section_id as id, json_build_object('code', code, 'label', label, 'of', "of",
          'several', several, 'sensitive', sensitive, 'place', place) as "values"
        from own_section_version v where ${believed} order by own_section_id, valid_from desc) d) as sections,
      (select coalesce(json_agg(d), '[]') from (
        select distinct on (own_field_id) own_field_id as id, json_build_object('sectionId', section_id, 'code', code,
          'label', label, 'help', help, 'kind', kind, 'list', list, 'required', required, 'place', place) as "values"
        from own_field_version v where ${believed} order by own_field_id, valid_from desc) d) as fields`;
};

/** The catalogue of now: the sections the program knows, and those that entries defined. Read again when one defines more. */
export class Catalogues {
  private known: Catalogue;
  private readonly reading = new Map<number, Promise<Catalogue>>();
  private defined: Definitions = { number: 0, sections: [], fields: [] };

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
    const { defined } = await one<{ defined: number }>(db, sql`select defined from journal_head`);
    return this.knowing(db, defined);
  }

  /** What each own section and field says of itself (labels, help), as last read. */
  get definitions(): Definitions {
    return this.defined;
  }

  private async read(db: Db): Promise<Catalogue> {
    const found = await one<Definitions>(db, definitions(null));
    if (found.number > this.known.number) {
      this.known = this.base.with(ownSections(found.sections, found.fields), found.number);
      this.defined = found;
    }
    return this.known;
  }
}
