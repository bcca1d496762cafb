-- Programs elsewhere that are told what happens to a site, and each telling until it arrived.
create table hook (
  id uuid primary key default gen_random_uuid(),
  site_id uuid not null references site on delete cascade,
  url text not null,
  -- Sealed; with it whoever is told can check that it was us.
  secret bytea not null,
  events text[] not null,
  by uuid not null references person,
  at timestamptz not null,
  unique (site_id, url)
);

create table delivery (
  id uuid primary key default gen_random_uuid(),
  hook_id uuid not null references hook on delete cascade,
  event text not null,
  body jsonb not null,
  at timestamptz not null,
  state text not null default 'waiting' check (state in ('waiting', 'arrived', 'given-up')),
  attempts integer not null default 0,
  next_at timestamptz not null,
  status integer,
  problem text
);
create index delivery_due on delivery (next_at) where state = 'waiting';
create index delivery_of_hook on delivery (hook_id, at desc);
