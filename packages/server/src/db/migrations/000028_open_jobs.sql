-- Jobs that are not done: looked through every other second for those that nobody works on.
create index on job (state) where state in ('queued', 'running');
