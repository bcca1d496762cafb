-- Every page the site has or had is a row of page: pages that came in with an export by their path, pages added here
-- without one. What speaks of a page refers to it.

alter table page alter column source_path drop not null;
-- Removed for good: an export that brings the same file again brings a page that is new.
update page set source_path = null where source_path = '';

insert into page (id, site_id)
  select a.page_id, a.site_id from added_page a where not exists (select 1 from page p where p.id = a.page_id);
-- Added here, and removed for good since.
delete from touch_place t where not exists (select 1 from page p where p.id = t.page_id);
delete from suggestion s where s.page_id is not null and not exists (select 1 from page p where p.id = s.page_id);
update snag s set page_id = null where page_id is not null and not exists (select 1 from page p where p.id = s.page_id);

alter table added_page add foreign key (page_id) references page on delete cascade;
alter table touch_place add foreign key (page_id) references page on delete cascade;
alter table suggestion add foreign key (page_id) references page on delete cascade;
alter table snag add foreign key (page_id) references page on delete cascade;
create index touch_place_page on touch_place (page_id);
create index suggestion_page on suggestion (page_id) where page_id is not null;
create index snag_page on snag (page_id) where page_id is not null;
