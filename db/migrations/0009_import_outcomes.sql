-- What a check found of each row, apart from its cells: 50,000 wide rows were written a second time for it.
create table import_outcome (
  import_id bigint not null,
  row int not null,
  status text not null,
  -- none: nothing is wrong
  faults jsonb,
  person_id bigint,
  primary key (import_id, row),
  foreign key (import_id, row) references import_row on delete cascade
);
insert into import_outcome (import_id, row, status, faults, person_id)
select import_id, row, status, nullif(faults, '[]'), person_id from import_row where status is not null;
create index import_outcome_status on import_outcome (import_id, status, row);
grant select, insert, update on import_outcome to gremium_server;

drop index import_row_status;
alter table import_row drop column status, drop column faults, drop column person_id;
