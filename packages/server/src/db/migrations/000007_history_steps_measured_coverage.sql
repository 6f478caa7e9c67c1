-- Every press of undo and redo, by the id its client gave it: a repeat is answered as the first time.
create table history_step (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  change_seq bigint not null references change (seq) on delete cascade,
  direction text not null check (direction in ('undo', 'redo')),
  who text not null,
  at timestamptz not null default now(),
  revisions jsonb not null
);
create index on history_step (project_id);
-- Measurements now say how much of the piece is selected: what was measured without is measured anew.
delete from measurement;
