-- Passes that carry selections through a shot, and the masks they have found, frame by frame. Like runs of tracks they
-- outlive an undone step.
create table carry_run (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  is_backward boolean not null
);
create index on carry_run (project_id);
create table carried_frame (
  run_id uuid not null references carry_run on delete cascade,
  frame integer not null,
  mask bytea not null,
  certainty double precision not null,
  primary key (run_id, frame)
);
