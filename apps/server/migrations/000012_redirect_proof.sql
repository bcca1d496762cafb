-- Proof of redirects: what the live host answered for every old address, and whether targets elsewhere answer.

-- One proof a site is kept, the last.
create table redirect_proof (
  site_id uuid primary key references site on delete cascade,
  release_id uuid not null references release on delete cascade,
  -- The origin that was asked.
  origin text not null,
  at timestamptz not null,
  by uuid not null references person
);

create table redirect_proof_row (
  site_id uuid not null references redirect_proof on delete cascade,
  address text not null,
  -- Addresses and statuses on the way, in their order.
  hops jsonb not null,
  end_kind text not null check (end_kind in ('page', 'outside', 'gone', 'missing', 'loop', 'unasked')),
  -- Where it ended: an address, or a URL elsewhere.
  final text,
  -- What is otherwise than the release says; null where all is as it should be.
  problem text,
  primary key (site_id, address)
);

-- Targets of redirects on other hosts, as they answered when they were asked last.
create table outside_target (
  site_id uuid not null references site on delete cascade,
  url text not null,
  asked_at timestamptz not null,
  status integer,
  problem text,
  primary key (site_id, url)
);
