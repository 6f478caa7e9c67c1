-- How sure each frame of a pass is, in the order it goes, stands in the pass's own row: reading a project reads one row
-- a pass, not one a frame.
alter table carry_run add column certainties real[] not null default '{}';
update carry_run r set certainties = found.certainties
  from (
    select f.run_id,
      array_agg(f.certainty order by case when r.is_backward then -f.frame else f.frame end) as certainties
    from carried_frame f join carry_run r on r.id = f.run_id group by f.run_id
  ) as found
  where found.run_id = r.id;
alter table carried_frame drop column certainty;
