import { sql } from '../database/sql';

/** The number of the last entry that defined an own section or field; 0 if none did. */
export const lastDefined = sql`select defined from journal_head`;

/** What is believed of each definition, the latest; one whose use ended stays, as its rows do. */
export const definitions = sql`
  select (select defined from journal_head) as number,
    (select coalesce(json_agg(d), '[]') from (
      select distinct on (own_section_id) own_section_id as id, json_build_object('code', code, 'label', label, 'of', "of",
        'several', several, 'sensitive', sensitive, 'place', place, 'seenBy', seen_by, 'editedBy', edited_by, 'retired', retired) as "values"
      from own_section_version v where v.superseded_by is null order by own_section_id, valid_from desc) d) as sections,
    (select coalesce(json_agg(d), '[]') from (
      select distinct on (own_field_id) own_field_id as id, json_build_object('sectionId', section_id, 'code', code,
        'label', label, 'help', help, 'kind', kind, 'list', list, 'required', required, 'place', place,
        'unique', "unique", 'pattern', pattern, 'least', trim_scale(least)::text, 'most', trim_scale(most)::text, 'retired', retired,
        'usual', usual, 'atHire', at_hire, 'searched', searched) as "values"
      from own_field_version v where v.superseded_by is null order by own_field_id, valid_from desc) d) as fields,
    (select coalesce(json_agg(d), '[]') from (
      select distinct on (field_setting_id) field_setting_id as id, json_build_object('section', section, 'field', field,
        'label', label, 'hiddenFrom', hidden_from, 'place', place, 'shownIn', shown_in) as "values"
      from field_setting_version v where v.superseded_by is null order by field_setting_id, valid_from desc) d) as settings,
    (select coalesce(json_agg(d), '[]') from (
      select distinct on (role_id) role_id as id, json_build_object('code', code, 'label', label, 'note', note, 'acts', acts,
        'rights', rights, 'others', others, 'follows', follows, 'hides', hides, 'retired', retired) as "values"
      from role_version v where v.superseded_by is null order by role_id, valid_from desc) d) as roles`;
