-- When visitors are to move over to the new host, where somebody chose; times of the other steps follow from it.
alter table site add column change_at timestamptz;
