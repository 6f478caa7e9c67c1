-- Entities that are edited carry a revision; every edit is also a row in change, which is undo, history and audit.
create table project (
  id uuid primary key,
  name text not null,
  tolerance double precision not null,
  reference_shot_id uuid,
  revision integer not null default 1,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now()
);
create table media (
  id uuid primary key,
  sha256 text not null unique,
  description jsonb not null,
  files jsonb not null,
  created_at timestamptz not null default now()
);
create table shot (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  media_id uuid not null references media,
  name text not null,
  position integer not null,
  encoding text not null,
  revision integer not null default 1
);
create table piece (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  name text not null,
  kind text not null,
  position integer not null,
  revision integer not null default 1
);
create table colourway (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  name text not null,
  position integer not null,
  revision integer not null default 1
);
create table requirement (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  piece_id uuid not null references piece,
  colourway_id uuid not null references colourway,
  name text not null,
  lab jsonb not null,
  illuminant text not null,
  tolerance double precision,
  revision integer not null default 1,
  unique (piece_id, colourway_id)
);
create table recipe (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  piece_id uuid not null references piece,
  colourway_id uuid not null references colourway,
  shift jsonb not null,
  strength double precision not null,
  revision integer not null default 1,
  unique (piece_id, colourway_id)
);
create table sighting (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  piece_id uuid not null references piece,
  shot_id uuid not null references shot,
  layers jsonb not null,
  revision integer not null default 1,
  unique (piece_id, shot_id)
);
create index on shot (project_id);
create index on piece (project_id);
create index on colourway (project_id);
create index on requirement (project_id);
create index on recipe (project_id);
create index on sighting (project_id);

create table change (
  seq bigint generated always as identity primary key,
  id uuid not null unique,
  project_id uuid not null references project on delete cascade,
  at timestamptz not null default now(),
  who text not null,
  label text not null,
  edits jsonb not null,
  revisions jsonb not null,
  state text not null check (state in ('done', 'undone', 'abandoned'))
);
create index on change (project_id, seq);

create table job (
  id uuid primary key,
  project_id uuid references project on delete cascade,
  kind text not null,
  subject text not null,
  title text not null,
  state text not null,
  done integer not null default 0,
  total integer not null default 0,
  message text,
  cancel_requested boolean not null default false,
  payload jsonb not null,
  worker_id text,
  heartbeat_at timestamptz,
  created_at timestamptz not null default now(),
  started_at timestamptz,
  finished_at timestamptz
);
create index on job (project_id, created_at);
create index on job (kind, subject);

create table measurement (
  sighting_id uuid not null references sighting on delete cascade,
  colourway_id uuid not null references colourway on delete cascade,
  inputs text not null,
  frames jsonb not null,
  measured_frames integer not null,
  primary key (sighting_id, colourway_id)
);

create table delivery (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  shot_id uuid references shot on delete set null,
  shot_name text not null,
  colourway_name text not null,
  preset text not null,
  job_id uuid not null references job,
  file_name text not null,
  bytes bigint,
  created_at timestamptz not null default now()
);
create index on delivery (project_id, created_at);
