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
