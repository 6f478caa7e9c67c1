-- Where a project lies among the others. What is removed is only out of sight: it can be brought back.
alter table project add column state text not null default 'open' check (state in ('open', 'archived', 'removed'));
