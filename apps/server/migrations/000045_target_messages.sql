-- What is wrong with a target on another host is kept as a message; what was kept as text stays text.
alter table outside_target alter column problem type jsonb using to_jsonb(problem);
