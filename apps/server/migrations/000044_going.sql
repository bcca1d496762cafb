-- A site that is deleted can be taken back for some time; its name is free at once.
alter table site add column deleted_at timestamptz;
alter table site add column deleted_by uuid references person;
alter table site add column gone_at timestamptz;
alter table site add constraint site_deletion check ((deleted_at is null) = (gone_at is null) and (deleted_by is null or deleted_at is not null));
alter table site drop constraint site_team_id_name_key;
create unique index site_team_id_name_key on site (team_id, name) where deleted_at is null;
create index site_going on site (gone_at) where gone_at is not null;

-- Nobody sees a site that is deleted; who may take it back is asked elsewhere.
create or replace function sees_site(person uuid, site uuid) returns boolean language sql stable as $$
  select exists (
    select 1 from person p join site s on s.team_id = p.team_id
     where p.id = $1 and s.id = $2 and p.removed_at is null and s.deleted_at is null
       and (p.role = 'owner' or (p.sees_all and p.role <> 'client')
            or exists (select 1 from site_member m where m.person_id = p.id and m.site_id = s.id))
  )
$$;

-- What nothing refers to goes once it is a day old: until then somebody may be about to refer to it.
alter table content add column kept_at timestamptz not null default now();
alter table manifest_shard add column kept_at timestamptz not null default now();

-- An export that a newer one took the place of, and whose files are not kept any more.
alter table import add column cleared_at timestamptz;

-- When what is old goes next; one row.
create table upkeep (
  what text primary key check (what in ('retention')),
  next_at timestamptz not null
);
insert into upkeep (what, next_at) values ('retention', now());
