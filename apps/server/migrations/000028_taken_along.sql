-- Redirects that came with an archive of a release that was taken along.
alter table import add column redirects jsonb;
