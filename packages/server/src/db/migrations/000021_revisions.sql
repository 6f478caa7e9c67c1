-- A thing that comes back asks for the last revision that it had, in a log of every project.
create index on change using gin (revisions);
