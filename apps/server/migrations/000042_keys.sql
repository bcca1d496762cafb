-- Every row has a key, every reference is one, and what may stand in a column is said by the column.

alter table import_note add column id bigint generated always as identity primary key;
alter table dead_link add column id bigint generated always as identity primary key;
alter table page_look add column id bigint generated always as identity primary key;
create index if not exists import_note_import on import_note (import_id);
create index if not exists dead_link_import on dead_link (import_id);

-- A job may be swept before the release it made; contents outlive the import that brought them first.
update release r set job_id = null where job_id is not null and not exists (select 1 from job j where j.id = r.job_id);
alter table release add foreign key (job_id) references job on delete set null;
update content c set import_id = null where import_id is not null and not exists (select 1 from import i where i.id = c.import_id);
alter table content add foreign key (import_id) references import on delete set null;

alter table job add constraint job_kind_check check (kind in (
  'import', 'publish', 'compile', 'certificate', 'pictures', 'inspect', 'gather', 'suggest', 'prove', 'sweep', 'rehearse'
));
alter table delivery add constraint delivery_event_check check (event in (
  'release-live', 'release-failed', 'found-otherwise', 'away', 'back', 'drifted', 'spike', 'date-near', 'try', 'message'
));
alter table rehearsal add constraint rehearsal_verdict_check check (verdict in ('right', 'noted', 'wrong'));

-- When a site goes, all that is its own goes with it: one rule for every table.
do $$
declare
  found record;
begin
  for found in
    select c.conname, c.conrelid::regclass as held, pg_get_constraintdef(c.oid) as definition
      from pg_constraint c
     where c.contype = 'f' and c.confrelid = 'site'::regclass and c.confdeltype <> 'c'
  loop
    execute format('alter table %s drop constraint %I', found.held, found.conname);
    execute format('alter table %s add constraint %I %s on delete cascade', found.held, found.conname, found.definition);
  end loop;
end $$;
