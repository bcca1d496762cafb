-- Teams, people and their sessions.
create table team (
  id uuid primary key default gen_random_uuid(),
  name text not null,
  created_at timestamptz not null default now()
);

create table person (
  id uuid primary key default gen_random_uuid(),
  team_id uuid not null references team,
  name text not null check (name <> ''),
  email text not null,
  password_hash text not null,
  role text not null check (role in ('owner', 'editor', 'reviewer')),
  created_at timestamptz not null default now()
);
create unique index person_email on person (lower(email));

-- The shape connect-pg-simple reads and writes.
create table session (
  sid text primary key,
  sess json not null,
  expire timestamptz not null
);
create index session_expire on session (expire);

-- Attempts at signing in, by address and by account; the shape rate-limiter-flexible reads and writes.
create table sign_in_attempt (
  key varchar(255) primary key,
  points integer not null default 0,
  expire bigint
);

create table site (
  id uuid primary key default gen_random_uuid(),
  team_id uuid not null references team,
  name text not null,
  -- The site's name at the host stand-in, one DNS label.
  host_name text not null unique check (host_name ~ '^[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$'),
  -- Number of decisions so far; every change of the draft says which version it was made on.
  version integer not null default 0,
  current_import uuid,
  live_release uuid,
  created_at timestamptz not null default now(),
  unique (team_id, name)
);

-- File contents, once each, whoever they belong to.
create table content (
  hash text primary key check (hash ~ '^[0-9a-f]{64}$'),
  size_bytes bigint not null,
  bytes bytea not null,
  -- The import that brought it first, so that one that fails can take back what nobody else uses.
  import_id uuid
);
-- Most of it is compressed already, and what is not is read far more often than written.
alter table content alter column bytes set storage external;
create index content_import on content (import_id) where import_id is not null;

create table import (
  id uuid primary key default gen_random_uuid(),
  site_id uuid not null references site,
  state text not null check (state in ('waiting', 'reading', 'applied', 'failed', 'cancelled')),
  file_name text not null,
  size_bytes bigint not null,
  created_by uuid not null references person,
  created_at timestamptz not null default now(),
  applied_at timestamptz,
  error jsonb
);
create unique index import_one_at_a_time on import (site_id) where state in ('waiting', 'reading');
alter table site add foreign key (current_import) references import;

-- An upload in pieces, kept until it is read, so that any server process can read it, also after a restart.
create table upload_piece (
  import_id uuid not null references import on delete cascade,
  n integer not null,
  bytes bytea not null,
  primary key (import_id, n)
);
alter table upload_piece alter column bytes set storage external;

create table import_note (
  import_id uuid not null references import on delete cascade,
  code text not null,
  path text not null
);
create index import_note_import on import_note (import_id);

-- A page keeps its identity from import to import.
create table page (
  id uuid primary key default gen_random_uuid(),
  site_id uuid not null references site,
  source_path text not null,
  unique (site_id, source_path)
);

create table source_file (
  import_id uuid not null references import on delete cascade,
  path text not null,
  hash text not null references content,
  size_bytes bigint not null,
  headers jsonb not null,
  -- Files that link to it or load it.
  uses integer not null default 0,
  -- Where it answers while nobody decides otherwise.
  address text not null,
  page_id uuid references page,
  primary key (import_id, path)
);
create index source_file_hash on source_file (hash);
create index source_file_page on source_file (import_id, page_id) where page_id is not null;

-- What was read in a page or style sheet.
create table file_reading (
  import_id uuid not null references import on delete cascade,
  path text not null,
  title text,
  language text,
  description text,
  headings jsonb not null,
  -- Files of the same import that it links to or loads, each once.
  targets text[] not null,
  links_inside integer not null,
  links_outside integer not null,
  primary key (import_id, path)
);
create index file_reading_targets on file_reading using gin (targets);

create table dead_link (
  import_id uuid not null references import on delete cascade,
  path text not null,
  href text not null,
  element text not null,
  target text not null
);
create index dead_link_import on dead_link (import_id, path);

-- Everything people decided, in order, never changed afterwards.
create table decision (
  site_id uuid not null references site,
  seq integer not null,
  body jsonb not null,
  words text not null,
  by uuid not null references person,
  at timestamptz not null default now(),
  primary key (site_id, seq)
);

create table old_address (
  site_id uuid not null references site,
  address text not null,
  visits integer check (visits >= 0),
  primary key (site_id, address)
);

-- Pieces of manifests, by the SHA-256 of their text; see packages/core/src/release/manifest.ts.
create table manifest_shard (
  hash text primary key,
  text text not null
);

-- The draft as it was compiled last. It can always be computed again from the import and the decisions.
create table draft (
  site_id uuid primary key references site,
  import_id uuid not null references import,
  version integer not null,
  shards text[] not null,
  files integer not null,
  bytes bigint not null
);

create table release (
  id uuid primary key default gen_random_uuid(),
  site_id uuid not null references site,
  number integer not null,
  state text not null check (state in ('sending', 'live', 'past', 'failed', 'cancelled')),
  note text not null,
  created_by uuid not null references person,
  created_at timestamptz not null default now(),
  live_at timestamptz,
  rollback_of integer,
  -- The decisions and the import it was made from.
  version integer not null,
  import_id uuid not null references import,
  -- Null until compiled.
  shards text[],
  rules_hash text references content,
  files integer not null default 0,
  bytes bigint not null default 0,
  files_sent integer not null default 0,
  bytes_sent bigint not null default 0,
  error jsonb,
  job_id uuid,
  unique (site_id, number)
);
create unique index release_one_at_a_time on release (site_id) where state = 'sending';
create unique index release_one_live on release (site_id) where state = 'live';
alter table site add foreign key (live_release) references release;

create table job (
  id uuid primary key default gen_random_uuid(),
  site_id uuid not null references site,
  kind text not null,
  body jsonb not null,
  state text not null default 'waiting' check (state in ('waiting', 'running', 'done', 'failed', 'cancelled')),
  attempts integer not null default 0,
  progress jsonb,
  error jsonb,
  created_by uuid not null references person,
  cancelled_by uuid references person,
  created_at timestamptz not null default now(),
  ended_at timestamptz,
  -- While running: whose it is, and until when, unless it says again that it lives.
  worker text,
  leased_until timestamptz
);
create index job_open on job (created_at) where state in ('waiting', 'running');
create index job_site on job (site_id, created_at);
