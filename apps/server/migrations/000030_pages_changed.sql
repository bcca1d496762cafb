-- What each release made other for visitors, as one row of it: ten thousand rows of a first publish took a tenth of
-- the time the whole publish took. A later row holds over an earlier one; a page that went has no hash.
create table pages_changed (
  id bigint generated always as identity primary key,
  site_id uuid not null references site,
  day date not null,
  paths text[] not null,
  hashes text[] not null check (cardinality(hashes) = cardinality(paths))
);
create index pages_changed_site on pages_changed (site_id);
insert into pages_changed (site_id, day, paths, hashes)
select site_id, day, array_agg(path order by path), array_agg(hash order by path) from page_changed group by site_id, day order by day;
drop table page_changed;
