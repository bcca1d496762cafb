-- Lists of links found outside the content of imported pages, each once an import.
create table menu_list (
  import_id uuid not null references import on delete cascade,
  way text not null,
  -- SHA-256 of what the list leads to, in order.
  list text not null,
  items jsonb not null,
  mark jsonb,
  marks_branch boolean not null,
  primary key (import_id, way, list)
);

create table menu_place (
  import_id uuid not null references import on delete cascade,
  path text not null,
  way text not null,
  list text not null,
  primary key (import_id, path, way)
);
create index menu_place_list on menu_place (import_id, way, list);

-- Where the touches of a site stand in an import: found when they are made, and again for every newer export.
create table touch_place (
  site_id uuid not null references site,
  import_id uuid not null references import on delete cascade,
  seq integer not null,
  page_id uuid not null,
  places integer not null,
  -- Something else stands there in this import: it was changed in the export too.
  changed boolean not null,
  primary key (import_id, seq, page_id)
);

-- The day a page gives for itself.
alter table file_reading add column dated date;

-- What was read in pages added here; their content is kept like any other.
create table added_page (
  site_id uuid not null references site,
  page_id uuid primary key,
  title text,
  language text,
  description text,
  headings jsonb not null,
  dated date
);
