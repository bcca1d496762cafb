-- What a visitor notices between two versions of a page, in words: it never changes, so it is reckoned once.
create table page_difference (
  before_hash text not null references content on delete cascade,
  after_hash text not null references content on delete cascade,
  words text not null,
  primary key (before_hash, after_hash)
);
create index page_difference_after on page_difference (after_hash);
