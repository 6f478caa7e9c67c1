-- Tracks and what their runs have found, frame by frame; keyframes of recipes and sightings.
create table track (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  shot_id uuid not null references shot,
  name text not null,
  reference_frame integer not null,
  region jsonb not null,
  freedom jsonb not null,
  hold_outs jsonb not null,
  manual jsonb not null,
  runs jsonb not null,
  revision integer not null default 1
);
create index on track (project_id);
-- Runs outlive an undone step: redo finds their frames again.
create table track_run (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  stopped_frame integer,
  stopped_reason text
);
create table track_frame (
  run_id uuid not null references track_run on delete cascade,
  frame integer not null,
  motion double precision[] not null,
  confidence double precision not null,
  primary key (run_id, frame)
);
alter table recipe add column animated jsonb not null default '{}';
alter table sighting add column animated jsonb not null default '{}';
