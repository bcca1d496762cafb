-- Which keys have sealed something here, each with a word sealed by it: so a key that is missing or wrong is known when
-- a server starts, and not when a password is needed.
create table seal_key (
  id text primary key check (id ~ '^[0-9a-f]{8}$'),
  probe bytea not null,
  since timestamptz not null default now()
);
