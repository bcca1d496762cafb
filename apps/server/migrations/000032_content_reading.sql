-- What was read in pages as they will be published, where a draft makes them other than they were imported.
create table content_reading (
  hash text primary key references content on delete cascade,
  reading jsonb not null
);
