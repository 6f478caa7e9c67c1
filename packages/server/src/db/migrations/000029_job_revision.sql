-- Counts the changes of a job, so that of two that are told of it the later is known, in whichever order they arrive.
alter table job add column revision integer not null default 1;
create function job_changed() returns trigger language plpgsql as $$
begin
  new.revision := old.revision + 1;
  return new;
end $$;
create trigger job_changed before update on job for each row execute function job_changed();
