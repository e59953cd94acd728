-- What each signed grade says line by line, and what lay outside its bands round the tooth: taken from the signed record when it is written, so that a course's history is read without opening
-- every record. It can be made again from the records at any time.
create table graded_line (
  grade_id integer not null references grade (id),
  line text not null,
  title text not null,
  reading text,
  stat text,
  zone text,
  unit text,
  value double precision,
  u double precision,
  lo double precision,
  hi double precision,
  level integer check (level between 0 and 3),
  points double precision,
  out_of double precision not null,
  primary key (grade_id, line)
);
create table graded_error (
  grade_id integer not null references grade (id),
  line text not null,
  title text not null,
  made boolean not null,
  primary key (grade_id, line)
);
-- 72 bins of 5 degrees from facial over mesial: signed distance outside the band, 0 inside, null where nothing was read.
create table graded_curve (
  grade_id integer not null references grade (id),
  reading text not null,
  unit text not null,
  bins jsonb not null,
  primary key (grade_id, reading)
);
