-- How long an exercise takes, and the steps at which its work may be shown.
alter table exercise add column minutes integer check (minutes > 0);
alter table exercise add column steps jsonb not null default '[]';

-- A simulated scan keeps the recipe it was cut from: its file is made again when somebody looks at it.
alter table scan add column recipe jsonb;

-- What is drawn of a measurement whose scan was cut again; the measurement itself stays as it was.
create table drawn (
  measurement_id integer primary key references measurement (id),
  display_sha256 text not null references stored_file (sha256),
  profiles_sha256 text not null references stored_file (sha256),
  picture_sha256 text not null references stored_file (sha256),
  curves jsonb not null,
  drawn_at timestamptz not null default now()
);
