-- How many releases are kept beside those that are pinned; what is not kept any more stays as a line of the ladder.
alter table site add column releases_kept integer not null default 30 check (releases_kept >= 2);
alter table release add column is_pinned boolean not null default false;
-- False once the host was told that it may delete what only this release needed.
alter table release add column at_host boolean not null default true;
alter table release drop constraint release_state_check;
alter table release add constraint release_state_check check (state in ('sending', 'live', 'past', 'failed', 'cancelled', 'let-go'));
