-- Old addresses: where each was seen, what is still known of its page, and what could take its place.

alter table old_address
  add column last_seen timestamptz,
  -- Of the last answer somebody got there.
  add column status integer check (status between 100 and 599),
  add column title text,
  add column text text,
  add column headings text[] not null default '{}',
  add column language text,
  add column kind text not null default 'page' check (kind in ('page', 'file', 'noise')),
  -- Which rule says that it is noise.
  add column noise text,
  -- Who said what it is, against the rules.
  add column kind_by uuid references person,
  -- How probable it is that nothing takes its place; null until suggestions were reckoned.
  add column none real;

-- One list or log after another; the same visits are counted once, whoever counted most.
create table old_address_seen (
  site_id uuid not null,
  address text not null,
  source text not null check (source in ('sitemap', 'index', 'log', 'table', 'pasted', 'crawl', 'list')),
  visits bigint check (visits >= 0),
  last_seen timestamptz,
  primary key (site_id, address, source),
  foreign key (site_id, address) references old_address on delete cascade
);
insert into old_address_seen (site_id, address, source, visits) select site_id, address, 'list', visits from old_address;

create table gathering (
  id uuid primary key default gen_random_uuid(),
  site_id uuid not null references site on delete cascade,
  source text not null,
  -- The file's name, or the address that was asked.
  name text not null,
  by uuid not null references person,
  at timestamptz not null default now(),
  -- SHA-256 of a log, so that the same one is not counted twice.
  fingerprint text,
  read integer not null,
  fresh integer not null,
  not_read integer not null,
  -- The first lines that could not be read, and why.
  problems jsonb not null
);
create index gathering_of_site on gathering (site_id, at desc);

-- How the columns of a table were matched, by the names in its first line.
create table gathering_columns (
  site_id uuid not null references site on delete cascade,
  names text not null,
  columns jsonb not null,
  primary key (site_id, names)
);

create table suggestion (
  site_id uuid not null,
  address text not null,
  rank smallint not null,
  -- A page, or a file of the site by its path.
  page_id uuid,
  path text,
  probability real not null check (probability between 0 and 1),
  primary key (site_id, address, rank),
  check (num_nonnulls(page_id, path) = 1),
  foreign key (site_id, address) references old_address on delete cascade
);

-- The beginning of a page's main text; null for pages that came in before it was kept.
alter table file_reading add column main_text text;
