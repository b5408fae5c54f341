-- What the cells of each column of days say of which number is the day and which the month, as of the last check.
alter table import add column days jsonb not null default '{}';
