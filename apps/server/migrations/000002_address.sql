-- The name a visitor types at the host, changeable; host_name stays the site's key there.
alter table site add column temporary_label text unique check (temporary_label ~ '^[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$');
update site set temporary_label = host_name;
alter table site alter column temporary_label set not null;

-- Where a site is published. Without a row: the host this Fastigium was started with.
create table host_account (
  site_id uuid primary key references site on delete cascade,
  kind text not null check (kind in ('stand-in', 'folder', 'sftp')),
  -- What may be shown: folder, server, user, plan, region, months.
  settings jsonb not null default '{}',
  -- Password or key, sealed (AES-256-GCM); never leaves the server.
  secret bytea,
  -- The server's key as it was seen the first time; another one is refused.
  pinned_key text,
  probed_at timestamptz,
  connected_by uuid not null references person
);

-- Names of one's own. One is the site's domain, the others redirect to it.
create table domain (
  site_id uuid not null references site on delete cascade,
  name text not null check (name <> '' and name = lower(name)),
  -- The zone it is in: what was registered.
  zone text not null,
  role text not null check (role in ('own', 'further')),
  connected_by uuid not null references person,
  -- By the clock of the world the name lives in, as all times of this table.
  connected_at timestamptz not null,
  primary key (site_id, name)
);
-- A name leads to one site.
create unique index domain_name on domain (name);
create unique index domain_own on domain (site_id) where role = 'own';

create table address (
  site_id uuid primary key references site on delete cascade,
  -- Which of the two visitors are meant to see; a name below the apex stands alone.
  main_form text not null default 'www' check (main_form in ('www', 'apex')),
  force_https boolean not null default false,
  hsts_seconds integer check (hsts_seconds >= 0),
  -- A zone file somebody brought, as the whole of what stood before.
  zone_file text,
  update_server text,
  update_key_name text,
  update_algorithm text,
  update_secret bytea,
  next_look_at timestamptz,
  -- How the chain stood at the last look, in a few words, for the frame around every station.
  standing jsonb,
  -- When something was last seen to change; looks are rarer the longer ago it is.
  changed_at timestamptz
);

-- What was asked of the world and what came back. Times are the world's.
create table look (
  site_id uuid not null references site on delete cascade,
  at timestamptz not null,
  facts jsonb not null,
  primary key (site_id, at)
);

create table certificate (
  site_id uuid primary key references site on delete cascade,
  names text[] not null,
  chain text,
  sealed_key bytea,
  not_before timestamptz,
  not_after timestamptz,
  error jsonb,
  attempts integer not null default 0,
  next_try_at timestamptz
);

-- Accounts at certificate authorities, made once for each.
create table acme_account (
  directory text primary key,
  sealed_key bytea not null
);

-- Resolvers somebody added to those of the configuration.
create table resolver (
  team_id uuid not null references team on delete cascade,
  name text not null,
  address text not null,
  primary key (team_id, address)
);
