-- How a tracked region bends on a frame beyond its plane motion; null where it was not asked for.
alter table track_frame add column flex real[];
