-- The menus of an import, told from all its pages at once when it has been read; imports from before keep theirs in
-- menu_list and menu_place.
create table import_menus (
  import_id uuid primary key references import on delete cascade,
  -- The core's SiteMenus.
  found jsonb not null
);
