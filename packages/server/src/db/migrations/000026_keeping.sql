-- Which footage a project has ever had: an undo may ask for it again, as long as there is the project. What no project
-- has had, or has any more, is cleared away.
create table project_media (
  project_id uuid not null references project on delete cascade,
  media_id uuid not null references media,
  primary key (project_id, media_id)
);
create index on project_media (media_id);
insert into project_media (project_id, media_id)
  select project_id, media_id from shot union select project_id, media_id from plate;
insert into project_media (project_id, media_id)
  select distinct c.project_id, m.id from change c, media m where position(m.id::text in c.edits::text) > 0
  on conflict do nothing;
create function keep_project_media() returns trigger language plpgsql as $$
begin
  insert into project_media (project_id, media_id) values (new.project_id, new.media_id) on conflict do nothing;
  return new;
end $$;
create trigger shot_media after insert or update of media_id on shot
  for each row execute function keep_project_media();
create trigger plate_media after insert on plate for each row execute function keep_project_media();

-- Bytes of its files, and of the small pictures made of them; null: not looked at yet.
alter table media add column bytes bigint, add column frame_bytes bigint;
-- Since when nobody has asked for it: footage that comes in once more is asked for.
alter table media add column wanted_at timestamptz not null default now();

-- What may lie in the media folder without a row that knows of it; see db/looseFiles.ts.
create table loose_files (path text primary key);

alter table project add column removed_at timestamptz;
update project set removed_at = now() where state = 'removed';
