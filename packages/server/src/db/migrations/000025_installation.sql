-- One's own last step, in a log of tens of thousands that are others'. Without a sign-in all are nobody's.
create index on change (project_id, coalesce(person_id, '00000000-0000-0000-0000-000000000000'), state, seq);
-- Which media folder goes with this database: whoever starts with another would find no footage, and make it all anew.
create table installation (
  is_one boolean primary key default true check (is_one),
  media_id uuid not null
);
