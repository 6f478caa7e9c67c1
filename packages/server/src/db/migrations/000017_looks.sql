-- A look of a shot's own, in the place of the project's; a table that is only looked through.
alter table shot add column look jsonb;
alter table project add column view_table jsonb;
