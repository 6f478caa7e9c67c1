-- What reading a rendered file back has found; null: it was rendered before files were read back.
alter table delivery add column read_back jsonb;
