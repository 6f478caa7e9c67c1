-- Does the worker take jobs, or only what a server does beside answering?
alter table worker_heartbeat add column takes_jobs boolean not null default true;
