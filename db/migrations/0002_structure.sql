-- The organisation's settings, lists, places, jobs, units and positions.
create table organisation_version (
  name text not null,
  country text not null,
  time_zone text not null,
  languages jsonb not null,
  date_format text not null,
  currency text not null,
  fiscal_month int not null,
  week_start int not null,
  full_time int not null constraint organisation_full_time check (full_time between 1 and 16800),
  figures_from date not null
);
call keep_versions('organisation', 'organisation');

create table list_entry_version (list text not null, code text not null, label jsonb not null, flags jsonb not null);
call keep_versions('list_entry', 'list_entry');
alter table list_entry_version add constraint list_entry_code_taken
  exclude using gist (list with =, code with =, daterange(valid_from, valid_until) with &&) where (superseded_by is null);

create table legal_entity_version (code text not null, name text not null, country text not null, currency text not null);
call keep_versions('legal_entity', 'legal_entity');
call keep_codes_apart('legal_entity');

create table location_version (
  code text not null,
  name text not null,
  city text not null,
  country text not null,
  time_zone text not null,
  full_time int constraint location_full_time check (full_time between 1 and 16800)
);
call keep_versions('location', 'location');
call keep_codes_apart('location');

create table cost_centre_version (code text not null, name text not null);
call keep_versions('cost_centre', 'cost_centre');
call keep_codes_apart('cost_centre');

create table grade_version (code text not null, name text not null, level int not null, steps int not null);
call keep_versions('grade', 'grade');
call keep_codes_apart('grade');

create table grade_range_version (
  grade_id bigint not null references grade,
  currency text not null,
  minimum numeric(17, 4) not null,
  middle numeric(17, 4) not null,
  maximum numeric(17, 4) not null,
  full_time int not null,
  constraint grade_range_order check (minimum <= middle and middle <= maximum)
);
call keep_versions('grade_range', 'grade_range', '{grade_id}');

create table job_version (
  code text not null,
  name text not null,
  title text not null,
  summary text,
  family_id bigint references list_entry,
  level int,
  grade_id bigint references grade,
  worker_type_id bigint references list_entry,
  fte int not null constraint job_fte check (fte between 0 and 100),
  hours int,
  most_positions int,
  active boolean not null
);
call keep_versions('job', 'job');
call keep_codes_apart('job');

create table position (id bigint primary key);
create table unit_version (
  code text not null,
  name text not null,
  kind_id bigint not null references list_entry,
  parent_id bigint,
  head_position_id bigint references position,
  location_id bigint references location,
  cost_centre_id bigint references cost_centre,
  legal_entity_id bigint references legal_entity,
  hires_need_position boolean
);
call keep_versions('unit', 'unit', '{parent_id,head_position_id}');
call keep_codes_apart('unit');
alter table unit_version
  add foreign key (parent_id) references unit,
  add constraint unit_ring check (parent_id <> unit_id);

create table unit_hiring_version (
  job_id bigint references job,
  location_id bigint references location,
  worker_type_id bigint references list_entry,
  contract_kind_id bigint references list_entry,
  hours int
);
call keep_versions('unit_hiring', 'unit');

create table position_version (
  code text not null,
  title text not null,
  job_id bigint not null references job,
  unit_id bigint not null references unit,
  reports_to_id bigint references position,
  standing text not null constraint position_standing check (standing in ('planned', 'in_force', 'on_hold', 'closed')),
  location_id bigint references location,
  cost_centre_id bigint references cost_centre,
  legal_entity_id bigint references legal_entity,
  grade_id bigint references grade,
  hours int,
  temporary boolean not null,
  made_on_hire boolean not null,
  confirmed_top boolean not null,
  sources jsonb not null
);
call keep_versions('position', 'position', '{unit_id,reports_to_id,job_id}');
call keep_codes_apart('position');
alter table position_version add constraint reporting_ring check (reports_to_id <> position_id);

create table position_limits_version (
  places int constraint position_places check (places > 0),
  fte int constraint position_fte check (fte > 0),
  handover_days int not null constraint position_handover check (handover_days between 0 and 366)
);
call keep_versions('position_limits', 'position');
