-- One word has one meaning: what was called a look is a lookup of a site's domains in the world, the appearance of a
-- page, and the severity of what is worth one.
alter table look rename to address_lookup;
alter table address rename column next_look_at to next_lookup_at;

alter table page_look rename to page_appearance;
alter table page_appearance rename column look to appearance;
alter table page_picture rename column look to appearance;

alter table snag drop constraint snag_severity_check;
update snag set severity = 'should' where severity = 'look';
alter table snag add constraint snag_severity_check check (severity in ('must', 'should'));

-- What was kept of errors names them by their codes.
update job set error = jsonb_set(error, '{code}', '"no-lookup-yet"') where error ->> 'code' = 'no-look-yet';
update certificate set error = jsonb_set(error, '{code}', '"no-lookup-yet"') where error ->> 'code' = 'no-look-yet';

do $$
declare named record;
begin
  for named in
    select c.conname as old, c.conrelid::regclass as holder from pg_constraint c
     where c.conrelid in ('address_lookup'::regclass, 'page_appearance'::regclass)
       and c.contype in ('p', 'f', 'u', 'c') and c.conname ~ '(^|_)look(_|$)'
  loop
    execute format('alter table %s rename constraint %I to %I', named.holder, named.old,
      case when named.holder = 'address_lookup'::regclass then regexp_replace(named.old, '^look', 'address_lookup')
           else regexp_replace(named.old, 'page_look', 'page_appearance') end);
  end loop;
end $$;
alter index page_look_draft rename to page_appearance_draft;
alter index page_look_live rename to page_appearance_live;
