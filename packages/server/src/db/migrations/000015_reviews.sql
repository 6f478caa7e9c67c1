-- What is sent to whoever decides, and what is said of it. Outside the change log: nobody's undo takes back what
-- another has said. `page` is what was sent, as it was then; things of the project are named without a reference, since
-- what was said of them outlives them.
create table review (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  name text not null,
  token text not null unique,
  page jsonb not null,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null
);
create index on review (project_id);
-- a film of a review: not one of the deliveries that are handed over
create table review_film (
  delivery_id uuid primary key references delivery on delete cascade,
  review_id uuid not null references review on delete cascade,
  shot_id uuid not null,
  -- null: as filmed
  colourway_id uuid,
  position integer not null
);
create index on review_film (review_id);
-- `inputs`: hash of all that the picture of a sighting depended on when it was sent
create table review_sighting (
  review_id uuid not null references review on delete cascade,
  sighting_id uuid not null,
  colourway_id uuid not null,
  inputs text not null,
  primary key (review_id, sighting_id, colourway_id)
);
create table verdict (
  id uuid primary key,
  review_id uuid not null references review on delete cascade,
  sighting_id uuid not null,
  colourway_id uuid not null,
  decision text not null check (decision in ('approved', 'sent back')),
  who text not null,
  text text not null,
  at timestamptz not null default clock_timestamp()
);
create index on verdict (review_id);
create table note (
  id uuid primary key,
  project_id uuid not null references project on delete cascade,
  review_id uuid references review on delete cascade,
  shot_id uuid not null,
  colourway_id uuid,
  frame integer not null,
  text text not null,
  who text not null,
  spot jsonb,
  drawing jsonb not null,
  is_settled boolean not null default false,
  at timestamptz not null default clock_timestamp()
);
create index on note (project_id);
