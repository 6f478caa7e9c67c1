-- Signs of life of the processes that run jobs: a lock held by a silent one is taken back.
create table worker_heartbeat (
  id text primary key,
  at timestamptz not null default now()
);
alter table job drop column worker_id, drop column heartbeat_at;
