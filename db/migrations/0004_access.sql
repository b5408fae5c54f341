-- Accounts, what they may do, sessions, one-time links, kept replies. Ordinary rows, not entries.
create table account (
  id bigint generated always as identity primary key,
  email text not null constraint email_in_use unique,
  name text not null,
  language text not null default 'en',
  password_hash text not null,
  person_id bigint references person,
  grants jsonb not null default '[]',
  active boolean not null default true
);

create table session (
  token_hash text primary key,
  account_id bigint not null references account,
  seen_at timestamptz not null
);

create table one_time_link (
  token_hash text primary key,
  purpose text not null,
  expires_at timestamptz not null,
  used_at timestamptz
);

create table kept_reply (
  account_id bigint not null references account,
  key text not null,
  request_digest text not null,
  status int not null,
  reply jsonb not null,
  at timestamptz not null,
  primary key (account_id, key)
);

grant select, insert, update on account to gremium_server;
grant select, insert, update, delete on session, one_time_link, kept_reply to gremium_server;

-- Days on which a unit is a branch's root or below it, in the tree as believed now.
create function branch_periods(root bigint)
returns table (unit_id bigint, valid_from date, valid_until date) language sql stable as $$
  with recursive inside as (
    select v.unit_id, v.valid_from, v.valid_until
    from unit_version v
    where v.unit_id = root and v.superseded_by is null
    union
    select v.unit_id, greatest(v.valid_from, i.valid_from), least(v.valid_until, i.valid_until)
    from inside i
    join unit_version v on v.parent_id = i.unit_id and v.superseded_by is null
      and v.valid_from < i.valid_until and i.valid_from < v.valid_until
  )
  select unit_id, valid_from, valid_until from inside
$$;

-- Where undated sections of a person are looked for: the primary placement of today, else the next, else the last.
create function person_anchors(today date)
returns table (person_id bigint, position_id bigint, anchor date) language sql stable as $$
  select distinct on (e.person_id) e.person_id, p.position_id,
    case when p.valid_from > today then p.valid_from
         when p.valid_until <= today then p.valid_until - 1
         else today end
  from employment_version e
  join placement_version p on p.employment_id = e.employment_id and p.superseded_by is null and p.kind = 'primary'
    and p.valid_from < e.valid_until and e.valid_from < p.valid_until
  where e.superseded_by is null
  order by e.person_id,
    case when p.valid_from > today then 1 when p.valid_until <= today then 2 else 0 end,
    case when p.valid_from <= today and today < p.valid_until then not e.marked_main end,
    case when p.valid_from > today then p.valid_from end,
    case when p.valid_until <= today then p.valid_until end desc,
    e.valid_from, e.employment_id
$$;
