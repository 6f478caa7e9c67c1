-- The frames of its footage that a shot shows; all, as for all of before, where none is said.
alter table shot add column span jsonb;
