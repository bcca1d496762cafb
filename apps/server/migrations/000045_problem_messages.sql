-- What is wrong with a target on another host, and why a site was away, are kept as messages; what was text stays text.
alter table outside_target alter column problem type jsonb using to_jsonb(problem);
alter table probe alter column problem type jsonb using to_jsonb(problem);
