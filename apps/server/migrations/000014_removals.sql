-- How long removed things are kept, and when that was last set, so that a shorter time never takes anything at once.
alter table site
  add column removals_kept_days integer not null default 30 check (removals_kept_days between 0 and 3650),
  add column removals_limit_at timestamptz,
  -- When the next sweep is due, by the world's clock; null while nothing is removed or everything is kept without end.
  add column next_sweep_at timestamptz;

-- What somebody is to be told when they come by: things of theirs that others removed for good.
create table notice (
  id uuid primary key default gen_random_uuid(),
  site_id uuid not null references site on delete cascade,
  person_id uuid not null references person,
  words text not null check (words <> ''),
  at timestamptz not null,
  seen_at timestamptz
);
create index notice_unseen on notice (person_id, site_id) where seen_at is null;

-- A time limit is nobody's decision.
alter table decision alter column by drop not null;
