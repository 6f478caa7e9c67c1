-- What a colorist keeps for judging: versions of a recipe, stills with all that made them, how far a sighting is; parts
-- of a piece, and where a required colour was taken from.
alter table shot add column patches jsonb not null default '[]';
alter table piece add column part_of uuid;
alter table requirement add column note text not null default '';
alter table requirement add column as_in_shot_id uuid;
alter table sighting add column state text not null default 'rough';
create table recipe_version (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  piece_id uuid not null references piece,
  colourway_id uuid not null references colourway,
  name text not null,
  numbers jsonb not null,
  animated jsonb not null default '{}',
  created_at timestamptz not null default now(),
  revision integer not null default 1
);
create index on recipe_version (project_id);
create table still (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  shot_id uuid not null references shot,
  colourway_id uuid,
  name text not null,
  frame integer not null,
  encoding text not null,
  balance jsonb,
  renders jsonb not null,
  created_at timestamptz not null default now(),
  revision integer not null default 1
);
create index on still (project_id);
