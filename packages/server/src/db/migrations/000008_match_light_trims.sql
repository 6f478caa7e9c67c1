-- Gains that take a piece's colour to the required one, and whether sheen is kept apart from them; each shot's light;
-- what is laid on top of a recipe in a shot, and what tells sheen from body there.
alter table recipe add column match jsonb not null default '{"long": 1, "middle": 1, "short": 1}';
alter table shot add column light jsonb;
alter table sighting add column trims jsonb not null default '{}';
alter table recipe add column repaint jsonb not null default '{"on": false, "sheen": 1}';
alter table sighting add column body jsonb;
