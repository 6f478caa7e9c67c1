-- Which media folder goes with this database: whoever starts with another would find no footage, and make it all anew.
create table installation (
  is_one boolean primary key default true check (is_one),
  media_id uuid not null
);
