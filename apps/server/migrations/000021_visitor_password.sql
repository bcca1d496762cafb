-- What visitors type, sealed: the release has only the hash, and both whoever tells a client and the checks from outside need it.
create table visitor_password (
  site_id uuid not null references site on delete cascade,
  -- bcrypt
  hash text not null,
  sealed bytea not null,
  at timestamptz not null,
  primary key (site_id, hash)
);
