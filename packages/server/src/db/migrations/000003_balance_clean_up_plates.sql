-- A shot's base correction, a stack's clean-up and spill, and the mattes made elsewhere that a project brought in.
alter table shot add column balance jsonb;
alter table sighting add column clean_up jsonb, add column spill jsonb;
create table plate (
  project_id uuid not null references project on delete cascade,
  media_id uuid not null references media,
  created_at timestamptz not null default now(),
  primary key (project_id, media_id)
);
