-- A master in the making: an arch that somebody brought, what was proposed on it, and what a person made of that.
create table master_draft (
  id text primary key,
  course_id text not null references course (id),
  name text not null,
  tooth text not null,
  arch_sha256 text not null references stored_file (sha256),
  arch_name text not null,
  opposing_sha256 text references stored_file (sha256),
  opposing_name text,
  -- Bodies inside the tooth, where its maker gives them: file and name by what they are.
  inner_bodies jsonb not null default '{}',
  factor double precision not null check (factor > 0 and factor < 'infinity'),
  checks jsonb not null,
  triangles integer not null,
  display_sha256 text not null references stored_file (sha256),
  parts_sha256 text references stored_file (sha256),
  marks jsonb,
  trust jsonb,
  teeth jsonb not null default '[]',
  turned_about double precision check (turned_about > '-infinity' and turned_about < 'infinity'),
  strokes jsonb not null default '[]',
  version integer not null default 1,
  master_id text references master (id),
  made_by text not null references person (id),
  made_at timestamptz not null default now(),
  changed_at timestamptz not null default now()
);
create index master_draft_of_course on master_draft (course_id);
-- Where a finished master came from, and the one that it takes the place of.
alter table master add column course_id text references course (id);
alter table master add column follows text references master (id);
alter table master add column made_by text references person (id);
alter table master add column made_at timestamptz;

-- Which master a measurement was read on, where its exercise may have gone over to another one since.
create table measured_on (
  measurement_id integer primary key references measurement (id),
  master_id text not null references master (id)
);
