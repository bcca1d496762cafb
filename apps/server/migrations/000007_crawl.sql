-- The address a person typed, for an import that was crawled.
alter table import add column crawled_from text;

-- Where a running site answered with what became a file: addresses visitors know, other than the file's own.
create table crawled_address (
  import_id uuid not null references import,
  address text not null,
  path text not null,
  primary key (import_id, address)
);
