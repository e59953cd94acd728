-- A school sets itself up: its name, people who are invited, courses that are copied, rosters that can be taken back.
create table school (
  only_one integer primary key default 1 check (only_one = 1),
  name text not null,
  made_at timestamptz not null default now()
);
alter table person add column given_name text;
alter table person add column family_name text;
alter table person add column email text;
alter table enrolment add column group_name text;
alter table course add column copied_from text references course (id);

-- A link by which somebody sets a password, once and for some days; only its digest is kept.
create table invitation (
  token_digest text primary key,
  person_id text not null references person (id),
  made_by text references person (id),
  made_at timestamptz not null default now(),
  expires_at timestamptz not null,
  used_at timestamptz
);
create index invitation_person on invitation (person_id);

-- What a roster changed, so that it can be taken back.
create table roster_import (
  id text primary key,
  course_id text not null references course (id),
  file_name text not null,
  changes jsonb not null,
  made_by text not null references person (id),
  made_at timestamptz not null default now(),
  undone_at timestamptz
);
create index roster_import_course on roster_import (course_id);

alter table sitting add column starts_at time;
alter table sitting add column ends_at time;
alter table sitting add column room text;
alter table sitting add column is_resit boolean not null default false;
