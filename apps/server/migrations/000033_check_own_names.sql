-- The site's own names a draft was checked with: which links lead to a test copy depends on them.
alter table check_state add column own_names text[] not null default '{}';
