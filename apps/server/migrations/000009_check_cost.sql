-- Pages with the same title or description are found by it, however many pages there are.
create index page_fact_title on page_fact using hash (title);
create index page_fact_description on page_fact using hash (description);

-- The decisions and the import a draft was checked with.
alter table check_state add column import_id uuid references import;
