-- Failure rates that a course calls acceptable and not: what mastery is told by.
alter table course add column acceptable double precision not null default 0.10 check (acceptable > 0);
alter table course add column unacceptable double precision not null default 0.30;
alter table course add check (unacceptable > acceptable and unacceptable < 1);

-- What somebody said about a student of whom the grades say that they need a word; the line is put aside until something else is to be said.
create table concern_note (
  id serial primary key,
  course_id text not null references course (id),
  student_id text not null references person (id),
  what text not null,
  about text not null,
  -- The newest attempt that it rested on: with another one it is said anew.
  attempt_id integer references attempt (id),
  note text not null,
  said_by text not null references person (id),
  said_at timestamptz not null default now()
);
create index concern_note_course on concern_note (course_id);
