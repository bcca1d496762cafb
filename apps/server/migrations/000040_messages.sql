-- What people are told is kept as data, a code and what fills it, and becomes words where it is read. What was written
-- in words before stays as it was written.
create function pg_temp.as_written(subject text, words text) returns jsonb language sql immutable as
  $$ select jsonb_build_object('code', subject || '.as-written', 'parameters', jsonb_build_object('text', words)) $$;

-- A decision taken back or done again says so around what it was.
create function pg_temp.decided(words text) returns jsonb language plpgsql immutable as $$
declare
  beginning text[];
begin
  foreach beginning slice 1 in array array[
    ['Taken back: ', 'undone'], ['Done again: ', 'redone'], ['Left out of a release: ', 'left-out'], ['Still in the draft: ', 'in-draft']
  ] loop
    if starts_with(words, beginning[1]) then
      return jsonb_build_object(
        'code', 'decision.' || beginning[2],
        'parameters', jsonb_build_object('decision', pg_temp.decided(substr(words, length(beginning[1]) + 1)))
      );
    end if;
  end loop;
  return pg_temp.as_written('decision', words);
end $$;

create function pg_temp.each_as_written(subject text, rows jsonb) returns jsonb language sql immutable as $$
  select coalesce(jsonb_agg((each - 'words') || jsonb_build_object('message', pg_temp.as_written(subject, each ->> 'words')) order by n), '[]')
    from jsonb_array_elements(rows) with ordinality as r(each, n)
$$;

alter table decision add column message jsonb;
update decision set message = pg_temp.decided(words);
alter table decision alter column message set not null, drop column words;

alter table notice add column message jsonb;
update notice set message = pg_temp.as_written('notice', words);
alter table notice alter column message set not null, drop column words;

alter table inspection_finding add column message jsonb;
update inspection_finding set message = pg_temp.as_written('finding', words);
alter table inspection_finding alter column message set not null, drop column words;

update inspection set facts = jsonb_set(facts, '{changes}', pg_temp.each_as_written('change', facts -> 'changes'));
update rehearsal set findings = pg_temp.each_as_written('finding', findings);
update drift set findings = pg_temp.each_as_written('finding', findings);

alter table head_proof add column message jsonb;
update head_proof set message = pg_temp.as_written('head-proof', problem) where problem is not null;
alter table head_proof drop column problem;

alter table redirect_proof_row add column message jsonb;
update redirect_proof_row set message = pg_temp.as_written('live-way', problem) where problem is not null;
alter table redirect_proof_row drop column problem;

-- What a snag says where that takes a sentence; null where its detail is said as it stands.
alter table snag add column message jsonb;

-- Reckoned anew from the pages: what changed instead of what it was called.
delete from page_difference;
alter table page_difference drop column words, add column change jsonb not null;
