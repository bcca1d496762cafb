-- What was read in each page of a draft as it would be published, for the checks of the whole site.
create table page_fact (
  site_id uuid not null references site on delete cascade,
  -- Path of the published file.
  path text not null,
  facts jsonb not null,
  title text not null,
  description text not null,
  -- Addresses inside the site that it links to or loads, without their queries.
  links_to text[] not null,
  -- Files those lead to, itself left out.
  targets text[] not null,
  primary key (site_id, path)
);
create index page_fact_links on page_fact using gin (links_to);

create table picture_size (
  hash text primary key,
  width_px integer,
  height_px integer
);

create table snag (
  site_id uuid not null references site on delete cascade,
  -- The same for the same snag from check to check.
  key text not null,
  code text not null,
  severity text not null check (severity in ('must', 'look')),
  path text not null,
  page_id uuid,
  detail text not null,
  span_start integer,
  span_end integer,
  mend_label text,
  mend_asks text,
  primary key (site_id, key)
);
create index snag_path on snag (site_id, path);

-- Taken on somebody's name: it holds nothing up any more.
create table snag_dismissal (
  site_id uuid not null references site on delete cascade,
  key text not null,
  reason text not null check (reason <> ''),
  by uuid not null references person,
  at timestamptz not null default now(),
  primary key (site_id, key)
);

-- The draft as it was checked last.
create table check_state (
  site_id uuid primary key references site on delete cascade,
  version integer not null,
  shards text[] not null,
  rules_hash text not null,
  files_checked integer not null,
  checked_at timestamptz not null default now()
);

-- The rules it was checked with, to know which addresses answer differently now.
create table checked_rule (
  site_id uuid not null references site on delete cascade,
  from_address text not null,
  to_words text not null,
  primary key (site_id, from_address)
);
