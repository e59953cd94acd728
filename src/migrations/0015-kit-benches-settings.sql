-- What a course works with, each list whole and by versions: cutters, gauges, phrases, drills.
create table kit_version (
  course_id text not null references course (id),
  list text not null check (list in ('cutters', 'gauges', 'phrases', 'drills')),
  version integer not null check (version >= 1),
  items jsonb not null,
  made_by text not null references person (id),
  made_at timestamptz not null default now(),
  primary key (course_id, list, version)
);
-- Shipped phrases are data now (data/kit.json), and a course's own are a list of it.
drop table phrase;

-- A course's own version of a standard; what ships stays beside it.
create table standard_version (
  course_id text not null references course (id),
  standard_id text not null,
  version integer not null check (version >= 1),
  body jsonb not null,
  made_by text not null references person (id),
  made_at timestamptz not null default now(),
  primary key (course_id, standard_id, version)
);

-- What is looked at at each step of an exercise and whether an instructor's word is needed to go on; the cutters it is done with.
alter table exercise add column checks jsonb not null default '{}';
alter table exercise add column cutters jsonb not null default '[]';

-- Who sits where, who grades, who was not there.
create table seat (
  sitting_id text not null references sitting (id),
  person_id text not null references person (id),
  bench text not null,
  primary key (sitting_id, person_id)
);
create table sitting_grader (
  sitting_id text not null references sitting (id),
  person_id text not null references person (id),
  primary key (sitting_id, person_id)
);
create table absence (
  sitting_id text not null references sitting (id),
  person_id text not null references person (id),
  reason text not null default '',
  said_by text not null references person (id),
  said_at timestamptz not null default now(),
  primary key (sitting_id, person_id)
);

-- How somebody wants figures, dates and teeth to be written.
alter table person add column settings jsonb not null default '{}';
