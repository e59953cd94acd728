-- What students thought of their attempt before its result was shown: a level for each line, a figure where they measured it by hand, and how long they took. Without lines they did not want to judge.
create table self_assessment (
  id serial primary key,
  attempt_id integer not null references attempt (id),
  lines jsonb not null,
  minutes integer check (minutes between 1 and 600),
  made_at timestamptz not null default now()
);
create index self_assessment_attempt on self_assessment (attempt_id);
-- What a student sees of releases: only where they judged their own work first, or said that they would not.
create view shown_release as
  select r.* from release r where exists (select 1 from self_assessment s where s.attempt_id = r.attempt_id);

-- A drill that a student says they have done.
create table practised (
  id serial primary key,
  course_id text not null references course (id),
  student_id text not null references person (id),
  skill text not null,
  done_on date not null,
  made_at timestamptz not null default now(),
  unique (course_id, student_id, skill, done_on)
);

-- Rubrics that take points off were kept with what they took instead of what was left; their lines are made again from the records at the next start.
delete from graded_line where grade_id in (select id from grade where record #>> '{rubric,body,scoring,kind}' = 'deduct');

-- Results that were released before there was a judgement to give have been seen: they stay open.
insert into self_assessment (attempt_id, lines) select distinct attempt_id, '[]'::jsonb from release where grade_id is not null;
