-- Why a log could not be read: a message as data, or what another program said, as it stands.
alter table watched_log alter column problem type jsonb using to_jsonb(problem);
