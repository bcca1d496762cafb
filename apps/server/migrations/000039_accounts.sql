-- A client: somebody outside the team who sees what an owner shows them of it, and nothing else.
alter table person drop constraint person_role_check;
alter table person add constraint person_role_check check (role in ('client', 'reviewer', 'editor', 'owner'));
alter table invitation drop constraint invitation_role_check;
alter table invitation add constraint invitation_role_check check (role in ('client', 'reviewer', 'editor', 'owner'));

-- Who sees which site: all of them, or those of site_member. Owners see all, whatever stands here.
alter table person add column sees_all boolean not null default true;
alter table person add column password_changed_at timestamptz;
create table site_member (
  person_id uuid not null references person on delete cascade,
  site_id uuid not null references site on delete cascade,
  primary key (person_id, site_id)
);
create index site_member_site on site_member (site_id);
-- Which sites the invited will see; null: all.
alter table invitation add column sites uuid[];

create table password_reset (
  -- SHA-256 of the token in the link; the token itself is nowhere.
  token_hash text primary key,
  person_id uuid not null references person on delete cascade,
  -- The owner who made the link; null where it was asked for by mail.
  made_by uuid references person on delete cascade,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null
);
create index password_reset_person on password_reset (person_id);

create table second_factor (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references person on delete cascade,
  kind text not null check (kind in ('code', 'passkey')),
  name text not null check (name <> ''),
  created_at timestamptz not null default now(),
  used_at timestamptz,
  -- Of codes (RFC 6238): the sealed secret, whether a first code has proved that it arrived, and the last time step used.
  secret bytea,
  is_proved boolean not null default true,
  last_step bigint,
  -- Of passkeys (WebAuthn): what the authenticator calls itself, its public key, and how often it says it was used.
  credential text unique,
  public_key bytea,
  use_count bigint,
  transports text[] not null default '{}',
  check ((kind = 'code') = (secret is not null) and (kind = 'passkey') = (credential is not null and public_key is not null))
);
create index second_factor_person on second_factor (person_id);

-- For whoever has lost the others; each opens once. SHA-256: they are random enough that no slow hash is needed.
create table recovery_code (
  person_id uuid not null references person on delete cascade,
  code_hash text not null,
  primary key (person_id, code_hash)
);

-- Between two requests that belong together: a password that was right and the second factor, a challenge and its answer.
create table sign_in_step (
  token_hash text primary key,
  person_id uuid not null references person on delete cascade,
  purpose text not null check (purpose in ('sign in', 'new passkey')),
  challenge text not null,
  tries int not null default 0,
  expires_at timestamptz not null
);
create index sign_in_step_expiry on sign_in_step (expires_at);

-- Who did what, from where. Written before it is done; how it ended is added, and nothing else ever changes.
create table trail (
  id bigint generated always as identity primary key,
  team_id uuid not null references team,
  at timestamptz not null default clock_timestamp(),
  kind text not null,
  what text not null,
  -- As it was then; people go, and what they did stays.
  person_id uuid,
  who text not null,
  address text not null,
  request text not null,
  site_id uuid,
  site_name text,
  about text,
  -- Null: under way, or the process ended in the middle.
  outcome text
);
create index trail_team on trail (team_id, id desc);
create function keep_trail() returns trigger language plpgsql as $$
begin
  if tg_op = 'UPDATE' and old.outcome is null and (to_jsonb(new) - 'outcome' - 'about') = (to_jsonb(old) - 'outcome' - 'about') then
    return new;
  end if;
  raise exception 'what happened is not changed afterwards';
end $$;
create trigger trail_stays before update or delete on trail for each row execute function keep_trail();

-- Whether somebody sees a site. A client sees what is named, and nothing that comes by itself.
create function sees_site(person uuid, site uuid) returns boolean language sql stable as $$
  select exists (
    select 1 from person p join site s on s.team_id = p.team_id
     where p.id = $1 and s.id = $2 and p.removed_at is null
       and (p.role = 'owner' or (p.sees_all and p.role <> 'client')
            or exists (select 1 from site_member m where m.person_id = p.id and m.site_id = s.id))
  )
$$;
