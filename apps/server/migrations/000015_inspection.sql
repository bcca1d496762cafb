-- What was found when a live release was asked for from outside; the last time is kept for each release.
create table inspection (
  release_id uuid primary key references release on delete cascade,
  site_id uuid not null references site on delete cascade,
  -- The origin that was asked.
  origin text not null,
  at timestamptz not null,
  by uuid not null references person,
  verdict text not null check (verdict in ('right', 'noted', 'wrong')),
  -- For each aspect how many were asked, how many are wrong, how many noted.
  results jsonb not null,
  -- Files that were not asked for, since a sample of them was.
  unasked integer not null,
  -- What the report tells of the release and must not change afterwards: changes, old addresses, snags taken on a name.
  facts jsonb not null
);
create index inspection_site on inspection (site_id);

create table inspection_finding (
  release_id uuid not null references inspection on delete cascade,
  position integer not null,
  aspect text not null,
  address text not null,
  words text not null,
  weight text not null check (weight in ('wrong', 'note')),
  primary key (release_id, position)
);

-- Heads are read back in the same inspection.
delete from job where kind = 'read-back';
