-- Access ends at once: every request asks who is still there. What they decided keeps their name.
alter table person add column removed_at timestamptz;

create table invitation (
  id uuid primary key default gen_random_uuid(),
  team_id uuid not null references team,
  -- SHA-256 of the token in the link; the token itself is nowhere.
  token_hash text not null unique,
  role text not null check (role in ('owner', 'editor', 'reviewer')),
  created_by uuid not null references person,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null,
  used_by uuid references person
);

-- A removed person's address is free for a new invitation.
drop index person_email;
create unique index person_email on person (lower(email)) where removed_at is null;
