-- The session that a sign of life comes by: one that is gone has left whatever its worker held, at once.
alter table worker_heartbeat
  add column backend integer,
  add column backend_start timestamptz;
