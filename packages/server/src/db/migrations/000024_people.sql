-- People, what they may do, and how they come in. Without a sign-in none of it is asked.
create table person (
  id uuid primary key,
  login text not null unique check (login = lower(login)),
  name text not null,
  kind text not null check (kind in ('admin', 'member', 'guest')),
  -- argon2id as a PHC string; null until an invitation was accepted
  password text,
  -- who they are to the house's OpenID provider: its issuer and their subject there
  subject text unique,
  is_active boolean not null default true,
  created_at timestamptz not null default now()
);
-- of a link only the hash is kept: who reads the database cannot come in by it
create table invitation (
  token_hash bytea primary key,
  person_id uuid not null unique references person on delete cascade,
  expires_at timestamptz not null
);
-- as connect-pg-simple wants it
create table session (
  sid text primary key,
  sess json not null,
  expire timestamptz(6) not null
);
create index on session (expire);
-- as rate-limiter-flexible wants it
create table sign_in_attempt (
  key varchar(255) primary key,
  points integer not null default 0,
  expire bigint
);
create table membership (
  project_id uuid not null references project on delete cascade,
  person_id uuid not null references person on delete cascade,
  role text not null check (role in ('viewer', 'reviewer', 'editor')),
  primary key (project_id, person_id)
);
create index on membership (person_id);
-- whose undo a step is; null: of who works without a sign-in
alter table change add column person_id uuid references person on delete set null;
alter table history_step add column person_id uuid references person on delete set null;
create index on shot (media_id);
