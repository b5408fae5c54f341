-- Movements that are being prepared, and what became of them. Ordinary rows, not entries: what one writes is one entry.
create table movement (
  account_id bigint not null references account,
  key text not null,
  kind text not null,
  about text not null,
  state text not null default 'draft' constraint value_invalid check (state in ('draft', 'recorded')),
  -- what the endpoint of movements takes, as far as it is known
  input jsonb not null,
  -- what was typed and could not be read yet
  typed jsonb not null,
  kept_at timestamptz not null,
  entry_number bigint,
  result jsonb,
  primary key (account_id, key),
  constraint movement_recorded check ((state = 'recorded') = (entry_number is not null))
);
create index movement_by_entry on movement (entry_number);
grant select, insert, update, delete on movement to gremium_server;

-- slips that were kept before
insert into movement (account_id, key, kind, about, input, typed, kept_at)
select account_id, key, kind, about,
  case kind when 'hire' then jsonb_strip_nulls(jsonb_build_object(
    'positionId', content -> 'positionId',
    'firstDay', content -> 'firstDay',
    'lastDay', content -> 'lastDay',
    'reasonId', content -> 'reasonId',
    'contract', jsonb_build_object('kindId', content -> 'contractKindId'),
    'person', jsonb_build_object(
      'name', jsonb_build_object('given', content -> 'given', 'family', content -> 'family'),
      'birthDate', content -> 'birthDate',
      'contacts', case when content ? 'contact' then jsonb_build_array(jsonb_build_object(
        'kind', case when content ->> 'contact' like '%@%' then 'email' else 'phone' end,
        'value', content -> 'contact')) else '[]'::jsonb end
    )))
  else jsonb_strip_nulls(jsonb_build_object(
    'personId', content -> 'personId',
    'positionId', content -> 'positionId',
    'firstDay', content -> 'firstDay',
    'reasonId', content -> 'reasonId'))
  end,
  jsonb_strip_nulls(jsonb_build_object('pay.0.amount', content -> 'amount', 'hours', content -> 'hours')),
  kept_at
from draft where kind in ('hire', 'transfer');
delete from draft where kind in ('hire', 'transfer');
