-- What somebody did is a message; what was written before stays as it was written.
alter table trail add column act jsonb;
alter table trail alter column what drop not null;
alter table trail alter column about type jsonb using to_jsonb(about);
alter table trail add constraint trail_says_what check (act is not null or what is not null);
