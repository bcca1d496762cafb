-- Why a message could not be delivered is a message; texts from before stay as they were written.
alter table delivery alter column problem type jsonb using to_jsonb(problem);
