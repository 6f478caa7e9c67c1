-- Settings of renders that are kept under names of one's own, for all projects.
create table kept_settings (
  name text primary key,
  settings jsonb not null
);
