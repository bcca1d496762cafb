-- The draft on a temporary address of its own, asked for from outside; the last one of a site.
create table rehearsal (
  site_id uuid primary key references site on delete cascade,
  version integer not null,
  origin text not null,
  at timestamptz not null,
  by uuid not null references person,
  verdict text not null,
  results jsonb not null,
  findings jsonb not null
);
