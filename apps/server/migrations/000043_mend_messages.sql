-- What mends a snag is kept as messages; what was kept as text stays text.
alter table snag add column mend jsonb;
update snag set mend = jsonb_build_object('label', mend_label, 'asks', mend_asks) where mend_label is not null;
alter table snag drop column mend_label, drop column mend_asks;
