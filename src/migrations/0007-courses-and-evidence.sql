-- Courses and who has which part in them. Everything that a person may do is asked with its course.
create table course (
  id text primary key,
  name text not null,
  term text not null,
  starts_on date,
  ends_on date
);
create table enrolment (
  course_id text not null references course (id),
  person_id text not null references person (id),
  role text not null check (role in ('director', 'instructor', 'assistant', 'student')),
  bench text,
  primary key (course_id, person_id, role)
);
create index enrolment_person on enrolment (person_id);
insert into course (id, name, term) select 'course-1', 'Course', '' where exists (select 1 from person);
insert into enrolment (course_id, person_id, role, bench) select 'course-1', id, role, bench from person;
alter table person drop column role, drop column bench;

alter table exercise add column course_id text references course (id);
update exercise set course_id = 'course-1';
alter table exercise alter column course_id set not null;
create index exercise_course on exercise (course_id);
create index sitting_exercise on sitting (exercise_id);

-- Masters lie in the file store like scans; the folder is where an older installation kept them until they are taken over.
alter table master add column file_sha256 text references stored_file (sha256);
alter table master alter column folder drop not null;

-- Parts of an archive are kept with it.
alter table stored_file add column part_of text references stored_file (sha256);

-- Several attempts of a student in one sitting.
alter table attempt add column number integer not null default 1 check (number >= 1);
alter table attempt drop constraint attempt_sitting_id_student_id_key;
alter table attempt add constraint attempt_number unique (sitting_id, student_id, number);
create index attempt_student on attempt (student_id);
create index attempt_grader on attempt (grader_id);

-- A second grader works in a round of their own; round 3 settles where two differ.
create table marking (
  attempt_id integer not null references attempt (id),
  round integer not null check (round in (2, 3)),
  grader_id text not null references person (id),
  given_by text references person (id),
  given_at timestamptz not null default now(),
  primary key (attempt_id, round)
);

-- Evidence is added, never changed.
create function refuse_evidence_change() returns trigger language plpgsql as $$
begin
  raise exception 'what was recorded is kept as it is (%); add a new record instead', tg_table_name;
end $$;

alter table measurement drop constraint measurement_scan_id_key;
alter table measurement add column scan_sha256 text;
alter table measurement add column master_sha256 text;
alter table measurement add column kind text;
alter table measurement add column hand_pose jsonb;
alter table measurement add column core_version text not null default 'before evidence was kept';
update measurement m set scan_sha256 = s.sha256, hand_pose = s.hand_pose, kind = e.kind
  from scan s join sitting t on t.id = s.sitting_id join exercise e on e.id = t.exercise_id where s.id = m.scan_id;
alter table measurement alter column scan_sha256 set not null;
alter table measurement alter column kind set not null;
create index measurement_scan on measurement (scan_id);
create trigger measurement_is_kept before update or delete on measurement for each row execute function refuse_evidence_change();
create trigger reading_is_kept before update or delete on reading for each row execute function refuse_evidence_change();

-- The measurement that an attempt is graded on: the newest entry counts; choosing another one is an act.
create table graded_on (
  id serial primary key,
  attempt_id integer not null references attempt (id),
  measurement_id integer not null references measurement (id),
  -- Nobody: it was the first, or a newer one of an attempt that nobody had signed yet.
  person_id text references person (id),
  chosen_at timestamptz not null default now()
);
create index graded_on_attempt on graded_on (attempt_id);
create index graded_on_measurement on graded_on (measurement_id);
insert into graded_on (attempt_id, measurement_id)
  select distinct on (s.attempt_id) s.attempt_id, m.id from scan s join measurement m on m.scan_id = s.id
  where s.attempt_id is not null and s.state = 'measured' and s.step = 'final' order by s.attempt_id, s.version desc, s.id desc;
create trigger graded_on_is_kept before update or delete on graded_on for each row execute function refuse_evidence_change();

alter table scan add column tries integer not null default 0;
alter table scan add column is_quarantined boolean not null default false;
create index scan_attempt on scan (attempt_id);
create index scan_sha256 on scan (sha256);
create index scan_waiting on scan (state) where state in ('arrived', 'measuring');

-- Judgements, comments, readings by hand and pins are versions by person and round; taking back is a new version.
alter table judgement rename to judgement_before;
create table judgement (
  id serial primary key,
  attempt_id integer not null references attempt (id),
  round integer not null default 1 check (round in (1, 2, 3)),
  line text not null,
  level integer check (level between 0 and 3),
  made boolean,
  reason text,
  -- Digest of what the line showed when it was judged; null in records of before.
  rested_on text,
  person_id text not null references person (id),
  made_at timestamptz not null default now()
);
create index judgement_attempt on judgement (attempt_id, round);
create table remark (
  id serial primary key,
  attempt_id integer not null references attempt (id),
  round integer not null default 1 check (round in (1, 2, 3)),
  line text not null,
  body text,
  person_id text not null references person (id),
  made_at timestamptz not null default now()
);
create index remark_attempt on remark (attempt_id, round);
insert into judgement (attempt_id, line, level, made, reason, person_id, made_at)
  select attempt_id, criterion_id, level, case when waived then false end, reason, person_id, made_at from judgement_before
  where level is not null or waived order by made_at;
insert into remark (attempt_id, line, body, person_id, made_at)
  select attempt_id, criterion_id, comment, person_id, made_at from judgement_before where comment is not null order by made_at;
drop table judgement_before;

alter table hand_reading rename to hand_reading_before;
create table hand_reading (
  id serial primary key,
  attempt_id integer not null references attempt (id),
  round integer not null default 1 check (round in (1, 2, 3)),
  name text not null,
  zone text,
  stat text not null,
  method text not null check (method in ('probe', 'gauge', 'explorer', 'wax', 'eye')),
  -- Both null: taken back.
  lo double precision check (lo > '-infinity' and lo < 'infinity'),
  hi double precision check (hi >= lo and hi < 'infinity'),
  person_id text not null references person (id),
  made_at timestamptz not null default now(),
  check ((lo is null) = (hi is null))
);
create index hand_reading_attempt on hand_reading (attempt_id, round);
insert into hand_reading (attempt_id, name, zone, stat, method, lo, hi, person_id, made_at)
  select attempt_id, name, nullif(zone, ''), stat, method, lo, hi, person_id, made_at from hand_reading_before order by made_at;
drop table hand_reading_before;

alter table pin add column round integer not null default 1 check (round in (1, 2, 3));
alter table pin rename column criterion_id to line;
create table pin_removal (
  id serial primary key,
  pin_id integer not null references pin (id),
  person_id text not null references person (id),
  made_at timestamptz not null default now()
);
create index pin_removal_pin on pin_removal (pin_id);

create trigger judgement_is_kept before update or delete on judgement for each row execute function refuse_evidence_change();
create trigger remark_is_kept before update or delete on remark for each row execute function refuse_evidence_change();
create trigger hand_reading_is_kept before update or delete on hand_reading for each row execute function refuse_evidence_change();
create trigger pin_is_kept before update or delete on pin for each row execute function refuse_evidence_change();
create trigger pin_removal_is_kept before update or delete on pin_removal for each row execute function refuse_evidence_change();

-- Released is a version of a grade; the newest entry counts, and an entry without a grade takes the release back.
alter table grade add column round integer not null default 1 check (round in (1, 2, 3));
create table release (
  id serial primary key,
  attempt_id integer not null references attempt (id),
  grade_id integer references grade (id),
  person_id text references person (id),
  released_at timestamptz not null default now()
);
create index release_attempt on release (attempt_id);
insert into release (attempt_id, grade_id, person_id, released_at)
  select a.id, (select g.id from grade g where g.attempt_id = a.id order by g.version desc limit 1), null, a.released_at
  from attempt a where a.released_at is not null and exists (select 1 from grade g where g.attempt_id = a.id);
alter table attempt drop column released_at;
create trigger release_is_kept before update or delete on release for each row execute function refuse_evidence_change();

-- The audit is a chain: each entry's keyed digest covers its content and the digest before it.
alter table audit rename to audit_before;
alter sequence audit_id_seq rename to audit_before_id_seq;
create table audit (
  id integer primary key,
  at timestamptz not null,
  person_id text references person (id),
  action text not null,
  subject text not null,
  details jsonb not null,
  digest text not null
);
create index audit_subject on audit (subject);
create trigger audit_is_kept before update or delete on audit for each row execute function refuse_evidence_change();
