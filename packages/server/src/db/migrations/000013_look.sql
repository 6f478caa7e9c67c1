-- The overall correction after all recolours: whether it is on, a CDL and the table it names. None as all of before.
alter table project add column look jsonb;
