-- What a page came with in its head, for settings to be weighed against, and words to suggest descriptions from.
-- Null: read before this was kept; it is read when somebody asks.
alter table file_reading add column own_head jsonb;
alter table file_reading add column lead text;
alter table added_page add column own_head jsonb;
alter table added_page add column lead text;

-- What no decision sets and heads speak of all the same: the main address, and the day sitemaps say of what changed.
alter table draft add column origin text;
alter table draft add column day text;

-- When each published path last became another for visitors.
create table page_changed (
  site_id uuid not null references site,
  path text not null,
  hash text not null,
  day date not null,
  primary key (site_id, path)
);

-- Snags are put in place of others of their kind.
create index snag_code on snag (site_id, code);

-- Heads as the live host gave them after a publish, beside what was sent.
create table head_proof (
  site_id uuid not null references site,
  path text not null,
  release_id uuid not null references release,
  asked_at timestamptz not null,
  -- Null where the head is as it was published.
  problem text,
  primary key (site_id, path)
);
