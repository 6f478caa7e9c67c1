-- Where a render lies in the render folder; null: it was not put there, as none was before.
alter table delivery add column placed text;
