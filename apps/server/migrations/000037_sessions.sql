-- A session belongs to somebody; whoever has not signed in has none. It is known by the hash of what the browser
-- holds, so that whoever reads the table is nobody by it. Those of before end with this.
drop table session;
create table session (
  id uuid primary key default gen_random_uuid(),
  token_hash text not null unique,
  person_id uuid not null references person on delete cascade,
  csrf text not null,
  -- What the browser called itself, and where from, for its owner to know it again.
  agent text not null default '',
  address text not null default '',
  created_at timestamptz not null default now(),
  seen_at timestamptz not null default now(),
  -- Whichever is first ends it.
  idle_until timestamptz not null,
  ends_at timestamptz not null
);
create index session_person on session (person_id);
create index session_idle on session (idle_until);

-- Keys were account names and addresses; now also both together, so that one cannot stand for the other.
truncate sign_in_attempt;
