-- What the live host gives otherwise than its release, looked at hourly by the world's clock; a site without a row was not looked at.
create table drift (
  site_id uuid primary key references site on delete cascade,
  release_id uuid not null references release on delete cascade,
  checked_at timestamptz not null,
  -- Null while all is as it should be.
  since timestamptz,
  asked integer not null,
  findings jsonb not null
);
alter table watched_log add column next_drift_at timestamptz not null default now();
-- Alerts that others were told of, so that each is told once.
create table told_alert (
  site_id uuid not null references site on delete cascade,
  kind text not null,
  of text not null,
  at timestamptz not null,
  primary key (site_id, kind, of)
);
