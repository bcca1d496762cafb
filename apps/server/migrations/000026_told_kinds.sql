-- Beside programs, a search index is told which addresses are new, changed and gone, and an account gets messages.
alter table hook add column kind text not null default 'webhook' check (kind in ('webhook', 'index', 'account'));
