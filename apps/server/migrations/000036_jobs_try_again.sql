-- What failed for a reason that may pass is tried again, not before a moment and with pauses that grow.
alter table job add column retry_at timestamptz;
alter table job add column retries integer not null default 0 check (retries >= 0);
alter table job add column retry_error jsonb;
alter table job add constraint job_retry check ((retry_at is null) = (retry_error is null));
