-- A kept reply names its entry by id, so that it is kept before the entry gets its number under the lock of the journal.
alter table kept_reply add column entry_id bigint references entry deferrable initially deferred;
update kept_reply k set entry_id = e.id from entry e where e.number = (k.reply ->> 'entry')::bigint;
delete from kept_reply where entry_id is null;
alter table kept_reply alter column entry_id set not null, drop column status;
create index kept_reply_at on kept_reply (at);

-- Tries to sign in that failed, by account (a digest of what was typed) and by address: both are limited for a while.
create table sign_in_try (
  subject text not null,
  at timestamptz not null
);
create index sign_in_try_subject on sign_in_try (subject, at);
create index sign_in_try_at on sign_in_try (at);
grant select, insert, delete on sign_in_try to gremium_server;

-- A link may be for one account: a new password.
alter table one_time_link add column account_id bigint references account;

-- Whoever might be the same as somebody new is looked for at every hire.
create index contact_email on contact_version (lower(value)) where superseded_by is null and kind = 'email';
create index person_birth_date on person_version (birth_date) where superseded_by is null;

-- The same placement as core chooses (anchorOf), also on ties: the employment is asked on the day of the placement, and of
-- equals the one begun first counts, then the older record.
create or replace function person_anchors(today date)
returns table (person_id bigint, position_id bigint, anchor date) language sql stable as $$
  select distinct on (e.person_id) e.person_id, p.position_id, p.anchor
  from (
    select v.employment_id, v.position_id, v.valid_from, v.valid_until,
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
