create table person (
  id text primary key,
  role text not null check (role in ('director', 'instructor', 'student', 'assistant')),
  name text not null,
  sign_in_name text not null unique,
  password_hash text not null,
  bench text
);

create table sign_in (
  token_digest text primary key,
  person_id text not null references person (id),
  started_at timestamptz not null default now(),
  expires_at timestamptz not null
);

create table stored_file (
  sha256 text primary key check (length(sha256) = 64),
  size_bytes bigint not null check (size_bytes >= 0),
  kept_at timestamptz not null default now()
);

create table master (
  id text primary key,
  name text not null,
  tooth text not null,
  folder text not null,
  description jsonb not null
);

create table rubric_version (
  id serial primary key,
  rubric_id text not null,
  version integer not null,
  body jsonb not null,
  frozen_at timestamptz,
  unique (rubric_id, version)
);

create table exercise (
  id text primary key,
  title text not null,
  tooth text not null,
  kind text not null check (kind in ('crown', 'cavity', 'onlay', 'partial', 'preformed', 'restoration')),
  master_id text not null references master (id),
  rubric_version_id integer not null references rubric_version (id)
);

create table sitting (
  id text primary key,
  exercise_id text not null references exercise (id),
  title text not null,
  held_on date not null
);

create table attempt (
  id serial primary key,
  sitting_id text not null references sitting (id),
  student_id text not null references person (id),
  grader_id text references person (id),
  released_at timestamptz,
  unique (sitting_id, student_id)
);

-- One row a file that was dropped, whether it could be used or not: nothing that came is lost.
create table scan (
  id serial primary key,
  sitting_id text not null references sitting (id),
  attempt_id integer references attempt (id),
  file_name text not null,
  sha256 text not null references stored_file (sha256),
  version integer not null default 1,
  brought_by text not null references person (id),
  arrived_at timestamptz not null default now(),
  state text not null check (state in ('arrived', 'measuring', 'measured', 'failed', 'cancelled')),
  stage text,
  progress_share double precision not null default 0 check (progress_share >= 0 and progress_share <= 1),
  fault_code text,
  fault_text text,
  check (state <> 'failed' or fault_text is not null)
);
create index scan_sitting on scan (sitting_id);

create table measurement (
  id serial primary key,
  scan_id integer not null unique references scan (id),
  measured_at timestamptz not null default now(),
  duration_ms double precision not null check (duration_ms > '-infinity' and duration_ms < 'infinity'),
  peak_mb double precision not null check (peak_mb > '-infinity' and peak_mb < 'infinity'),
  alignment jsonb not null,
  curves jsonb not null,
  display_sha256 text not null references stored_file (sha256),
  profiles_sha256 text not null references stored_file (sha256),
  picture_sha256 text not null references stored_file (sha256)
);

create table reading (
  measurement_id integer not null references measurement (id),
  name text not null,
  zone text,
  stat text not null,
  unit text not null,
  value double precision check (value > '-infinity' and value < 'infinity'),
  u double precision check (u >= 0 and u < 'infinity'),
  azimuth_deg double precision check (azimuth_deg > '-infinity' and azimuth_deg < 'infinity'),
  point jsonb,
  coverage_share double precision check (coverage_share >= 0 and coverage_share <= 1),
  samples integer not null,
  reason text,
  check ((value is null) = (reason is not null)),
  check ((value is null) = (u is null))
);
create index reading_measurement on reading (measurement_id);

-- The instructor's own word on one criterion of an attempt, before signing.
create table judgement (
  attempt_id integer not null references attempt (id),
  criterion_id text not null,
  level integer check (level between 0 and 3),
  waived boolean not null default false,
  reason text,
  comment text,
  person_id text not null references person (id),
  made_at timestamptz not null default now(),
  primary key (attempt_id, criterion_id)
);

-- A signed grade is a version: it is added, never changed.
create table grade (
  id serial primary key,
  attempt_id integer not null references attempt (id),
  version integer not null,
  measurement_id integer references measurement (id),
  rubric_version_id integer not null references rubric_version (id),
  grader_id text not null references person (id),
  total integer check (total between 0 and 100),
  passed boolean not null,
  record jsonb not null,
  digest text not null,
  signed_at timestamptz not null default now(),
  unique (attempt_id, version)
);

create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception 'a signed grade is kept as it is; sign a new version instead';
end $$;
create trigger grade_is_kept before update or delete on grade for each row execute function refuse_change();

create table audit (
  id serial primary key,
  at timestamptz not null default now(),
  person_id text references person (id),
  action text not null,
  subject text not null
);
