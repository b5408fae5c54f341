-- People, employments, contracts, placements, pay.
create table person_version (
  number text not null,
  birth_date date,
  gender text,
  nationality text,
  language text
);
call keep_versions('person', 'person');
alter table person_version add constraint person_number_taken
  exclude using gist (number with =, daterange(valid_from, valid_until) with &&) where (superseded_by is null);

-- "search" and "sort" are made of the names by core (fold); they are stored so that lists can use them.
create table person_name_version (
  given text,
  middle text,
  family text,
  prefix text,
  birth_name text,
  preferred text,
  sort_name text,
  search text not null,
  sort text not null,
  constraint name_missing check (given is not null or family is not null)
);
call keep_versions('person_name', 'person');

create table contact_version (
  person_id bigint not null references person,
  kind text not null,
  use text not null,
  value text not null,
  "primary" boolean not null
);
call keep_versions('contact', 'contact', '{person_id}');

create table employment (id bigint primary key);
create table employment_version (
  person_id bigint not null references person,
  legal_entity_id bigint not null references legal_entity,
  worker_type_id bigint not null references list_entry,
  marked_main boolean not null,
  seniority_date date,
  continues_id bigint references employment,
  end_reason_id bigint references list_entry,
  may_return boolean,
  return_reason text,
  return_barred_until date
);
call keep_versions('employment', 'employment', '{person_id,continues_id}');
alter table employment_version add constraint employment_apart
  exclude using gist (person_id with =, legal_entity_id with =, daterange(valid_from, valid_until) with &&)
  where (superseded_by is null);

create table contract_version (
  employment_id bigint not null references employment,
  kind_id bigint not null references list_entry,
  fixed_until date,
  fixed_ground text,
  notice_by_employee_days int,
  notice_by_employer_days int,
  probation_until date,
  probation text,
  signed_on date
);
call keep_versions('contract', 'contract', '{employment_id}');

create table placement (id bigint primary key);
create table placement_version (
  employment_id bigint not null references employment,
  position_id bigint not null references position,
  kind text not null,
  hours int not null,
  full_time int not null constraint placement_full_time check (full_time > 0),
  full_time_source text not null,
  lent_hours int not null,
  away_hours int not null,
  backfilled boolean not null,
  lead boolean not null,
  for_placement_id bigint references placement,
  reason_id bigint references list_entry,
  constraint suspended_range check (lent_hours >= 0 and away_hours >= 0 and lent_hours + away_hours <= hours)
);
call keep_versions('placement', 'placement', '{employment_id,position_id,for_placement_id}');
alter table placement_version add constraint placement_one_primary
  exclude using gist (employment_id with =, daterange(valid_from, valid_until) with &&)
  where (superseded_by is null and kind = 'primary');

create table pay_version (
  employment_id bigint not null references employment,
  kind_id bigint not null references list_entry,
  amount numeric(17, 4) not null,
  currency text not null,
  basis text not null,
  rate text not null,
  reason_id bigint references list_entry
);
call keep_versions('pay', 'pay', '{employment_id}');
