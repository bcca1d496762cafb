-- Whether the live site was there, asked every few minutes by the world's clock.
create table probe (
  site_id uuid not null references site on delete cascade,
  at timestamptz not null,
  is_up boolean not null,
  status integer,
  first_byte_ms real,
  problem text,
  primary key (site_id, at)
);

alter table watched_log add column next_probe_at timestamptz not null default now();
create index watched_log_probe on watched_log (next_probe_at);
