-- Files taken in, and the work on them. Ordinary rows, not entries: what they write is one entry, named here.
create table import (
  id bigint generated always as identity primary key,
  account_id bigint not null references account,
  at timestamptz not null,
  name text not null,
  file_name text not null,
  format text not null constraint import_format check (format in ('csv', 'xlsx')),
  content bytea not null,
  sheet text,
  sheets int not null default 1,
  comments int not null default 0,
  headings jsonb not null default '[]',
  -- for each heading {field, how}
  columns jsonb not null default '[]',
  day date not null,
  new_numbers boolean not null default false,
  state text not null default 'uploaded'
    constraint import_state check (state in ('uploaded', 'checked', 'written', 'cancelled')),
  counts jsonb,
  summary jsonb,
  warnings jsonb not null default '[]',
  trouble jsonb not null default '[]',
  -- how it is to be written: {rows, words, reason}
  writing jsonb,
  entry bigint references entry (number),
  -- goes up with every change of columns or cells: a check of an older one is done again
  revision int not null default 0,
  -- the work to do, which process does it, and its last sign of life; a silent one is taken over
  work text constraint import_work check (work in ('read', 'check', 'write')),
  worker uuid,
  beat timestamptz,
  attempts int not null default 0,
  done int not null default 0,
  total int not null default 0
);
create index import_work_waiting on import (id) where work is not null;
create index import_account on import (account_id, id desc);

create table import_row (
  import_id bigint not null references import on delete cascade,
  row int not null,
  cells text[] not null,
  status text,
  faults jsonb not null default '[]',
  person_id bigint,
  primary key (import_id, row)
);
create index import_row_status on import_row (import_id, status, row);

-- What headings were said to be: the next file with such a heading is matched the same way.
create table import_heading (
  heading text primary key,
  field text
);

grant select, insert, update on import, import_heading to gremium_server;
grant select, insert, update, delete on import_row to gremium_server;

-- Whoever may make records may take in a file of them.
update account set grants = (
  select jsonb_agg(
    case when g -> 'acts' ? 'create' and not g -> 'acts' ? 'import'
      then jsonb_set(g, '{acts}', g -> 'acts' || '"import"') else g end)
  from jsonb_array_elements(grants) g
)
where exists (select from jsonb_array_elements(grants) g where g -> 'acts' ? 'create');
