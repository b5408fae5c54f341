-- Which placement the anchor of a person is: scopes ask for its employment's legal entity and worker type, too.
drop function person_anchors(date);
create function person_anchors(today date)
returns table (person_id bigint, placement_id bigint, position_id bigint, anchor date) language sql stable as $$
  select distinct on (e.person_id) e.person_id, p.placement_id, p.position_id, p.anchor
  from (
    select v.employment_id, v.placement_id, v.position_id, v.valid_from, v.valid_until,
      case when v.valid_from > today then v.valid_from
           when v.valid_until <= today then v.valid_until - 1
           else today end as anchor
    from placement_version v
    where v.superseded_by is null and v.kind = 'primary'
  ) p
  join employment_version e on e.employment_id = p.employment_id and e.superseded_by is null
    and e.valid_from <= p.anchor and p.anchor < e.valid_until
  order by e.person_id,
    case when p.valid_from > today then 1 when p.valid_until <= today then 2 else 0 end,
    case when p.anchor = today and p.valid_from <= today then not e.marked_main end,
    case when p.valid_from > today then p.valid_from end,
    case when p.valid_until <= today then p.valid_until end desc,
    (select min(o.valid_from) from employment_version o
      where o.employment_id = e.employment_id and o.superseded_by is null),
    e.employment_id
$$;

-- An account without a password is invited: it is opened by its one-time link.
alter table account alter column password_hash drop not null;
-- When its holder was seen last, also once the session is over.
alter table account add column seen_at timestamptz;
