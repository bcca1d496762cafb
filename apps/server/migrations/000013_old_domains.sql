-- Domains that lead here and whose addresses are told apart from the site's own.
create table old_domain (
  site_id uuid not null references site on delete cascade,
  host text not null,
  by uuid not null references person,
  at timestamptz not null default now(),
  primary key (site_id, host)
);
