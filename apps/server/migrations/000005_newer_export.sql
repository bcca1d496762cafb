-- A newer export waits until somebody has seen what it brings.
alter table import drop constraint import_state_check;
alter table import add constraint import_state_check check (state in ('waiting', 'reading', 'reviewing', 'applied', 'failed', 'cancelled', 'dropped'));

-- What the main text of a page is like, to know it again under another address.
alter table file_reading add column fingerprint integer[] not null default '{}';

-- A page that moved in an export leaves its path to another one.
alter table page drop constraint page_site_id_source_path_key;
create index page_source_path on page (site_id, source_path);
