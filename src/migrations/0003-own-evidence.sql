-- What the instructor read by hand at one place of an attempt: an interval, since a probe, a gauge and a finger read in steps.
create table hand_reading (
  attempt_id integer not null references attempt (id),
  name text not null,
  zone text not null,
  stat text not null,
  method text not null check (method in ('probe', 'gauge', 'explorer', 'wax', 'eye')),
  unit text not null,
  lo double precision not null check (lo > '-infinity' and lo < 'infinity'),
  hi double precision not null check (hi >= lo and hi < 'infinity'),
  person_id text not null references person (id),
  made_at timestamptz not null default now(),
  primary key (attempt_id, name, zone, stat)
);

-- Sentences that instructors would write again and again; {place} and {value} are filled in where they are used.
create table phrase (
  id serial primary key,
  about text not null,
  -- For readings under or over their band; both when empty.
  side text not null default '' check (side in ('', 'under', 'over')),
  body text not null unique
);
insert into phrase (about, side, body) values
  ('reduction', 'under', 'Too little removed at {place}: sink a depth groove first, then join the grooves.'),
  ('reduction', 'over', 'Too much removed at {place}; it cannot be put back. Check with the gauge earlier.'),
  ('taper.wall', 'over', 'The handpiece leaned in at {place}. Hold it along the axis and look from occlusal with one eye.'),
  ('taper.wall', 'under', 'Undercut at {place}: tip the cutter back towards the axis.'),
  ('toc', 'over', 'The walls converge by {value}; bring the handpiece upright for both of them.'),
  ('margin.width', '', 'The margin is {value} at {place}: let the tip’s radius set the width.'),
  ('margin.lip', 'over', 'There is a lip at {place}: the cutter sank past half its tip.'),
  ('margin.gingiva', '', 'The finish line leaves the gingiva’s course at {place}; keep half a millimetre above it.'),
  ('depth.pulpal', '', 'The floor lies at {value}. Set the depth in one place, then carry it on.'),
  ('floor', 'over', 'The floor is not level: look at it from mesial and from facial.'),
  ('wall.angle', '', 'The {place} wall leans by {value}; check the cutter’s taper against your tilt.'),
  ('outline', 'over', 'The outline is wider than caries and instrument ask for.'),
  ('box', '', 'The box at {place} wants another look with the explorer along its margin.'),
  ('box.clearance', 'under', 'The gap at {place} is {value}: the margin must be out of contact.'),
  ('groove', '', 'The groove at {place} wants a steady hand along one line.'),
  ('divergence', 'under', 'The walls open by {value}; nothing must catch on the way in.'),
  ('neighbour', 'over', 'The neighbour was touched at {place}: leave a thin shell and break it out.'),
  ('', '', 'Well done at {place}.'),
  ('', '', 'Show me at the bench before you go on.');
