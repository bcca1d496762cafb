-- What was seen is kept before the address it was seen at, in one transaction.
alter table old_address_seen alter constraint old_address_seen_site_id_address_fkey deferrable initially immediate;

-- What a gathering held, and the job that brought it in.
alter table gathering
  add column files integer not null default 0,
  add column noise integer not null default 0,
  add column left_out integer not null default 0,
  add column job_id uuid references job on delete set null;
alter table gathering alter column files drop default, alter column noise drop default, alter column left_out drop default;
create index gathering_of_job on gathering (job_id) where job_id is not null;

-- A job whose files came in at one process is done there; once that is gone, whoever takes it says so.
alter table job add column only_at uuid;
