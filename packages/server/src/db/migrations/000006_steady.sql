-- Frames on either side that a sighting's finished matte is steadied over.
alter table sighting add column steady_frames integer not null default 0;
