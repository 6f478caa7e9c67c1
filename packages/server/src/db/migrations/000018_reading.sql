-- The same files may be read in several ways; '' is as they state it.
alter table media add column reading text not null default '';
alter table media drop constraint media_sha256_key;
alter table media add constraint media_sha256_reading_key unique (sha256, reading);
