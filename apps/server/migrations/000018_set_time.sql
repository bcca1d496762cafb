-- A release that goes out by itself: the draft as it was looked at, at a time by the world's clock.
create table set_time (
  site_id uuid primary key references site on delete cascade,
  at timestamptz not null,
  -- Time zone of whoever set it, as the IANA database names it; for saying the time.
  zone text not null,
  version integer not null,
  import_id uuid not null references import on delete cascade,
  note text not null,
  by uuid not null references person
);
create index set_time_due on set_time (at);
