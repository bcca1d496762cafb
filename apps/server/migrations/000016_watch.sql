-- The host's access log, read as it grows.
create table watched_log (
  site_id uuid primary key references site on delete cascade,
  -- Told from another log by how it begins; when it is begun anew it is read from its start.
  begun text not null default '',
  read_to bigint not null default 0,
  -- By the world's clock; null while it was never read.
  read_at timestamptz,
  next_read_at timestamptz not null,
  -- Why the last try failed; null where it did not.
  problem text,
  -- Lines that were no request in one of the known formats.
  not_read bigint not null default 0
);
create index watched_log_due on watched_log (next_read_at);

-- Requests by people, by how they ended, and all by robots.
create table visit_hour (
  site_id uuid not null references site on delete cascade,
  hour timestamptz not null,
  found bigint not null default 0,
  redirected bigint not null default 0,
  lost bigint not null default 0,
  gone bigint not null default 0,
  failed bigint not null default 0,
  robots bigint not null default 0,
  primary key (site_id, hour)
);

-- Addresses at which visitors did not find a page at once, by day (UTC).
create table visit_address (
  site_id uuid not null references site on delete cascade,
  day date not null,
  outcome text not null check (outcome in ('redirected', 'lost', 'gone', 'failed')),
  address text not null,
  visits bigint not null,
  robot_visits bigint not null,
  last_at timestamptz not null,
  referrer text,
  primary key (site_id, outcome, address, day)
);

-- Lost addresses of the live site join the old ones.
alter table old_address_seen drop constraint old_address_seen_source_check;
alter table old_address_seen add constraint old_address_seen_source_check check (source in ('sitemap', 'index', 'log', 'table', 'pasted', 'crawl', 'list', 'live'));

insert into watched_log (site_id, next_read_at) select id, now() from site where live_release is not null;
