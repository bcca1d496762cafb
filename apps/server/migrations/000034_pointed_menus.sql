-- Lists of links that people said are menus, where none was found by itself; newer exports are read with them.
create table pointed_menu (
  id bigint generated always as identity primary key,
  site_id uuid not null references site,
  -- The core's PointedMenu: the way to the list, and its items as they were where it was pointed at.
  way text not null,
  items jsonb not null,
  by uuid not null references person,
  at timestamptz not null default now()
);
create index pointed_menu_site on pointed_menu (site_id);
