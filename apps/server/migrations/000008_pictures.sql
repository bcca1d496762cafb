-- Pictures of pages, by what the look is made of: the page and everything it loads.
create table page_picture (
  site_id uuid not null references site on delete cascade,
  look text not null,
  -- JPEG and its SHA-256; null where the browser could not take one. Other looks may come out as the same picture.
  bytes bytea,
  hash text,
  taken_at timestamptz not null default now(),
  primary key (site_id, look)
);
create index page_picture_hash on page_picture (site_id, hash);

-- How each published page looks in the draft, and in the release that is live.
create table page_look (
  site_id uuid not null references site on delete cascade,
  release_id uuid references release,
  path text not null,
  look text not null
);
create unique index page_look_draft on page_look (site_id, path) where release_id is null;
create unique index page_look_live on page_look (site_id, path) where release_id is not null;
