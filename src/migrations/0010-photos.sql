-- A photograph beside an attempt: for graders, who look at it while they read by hand. Every one is kept; the newest is shown.
create table photo (
  id integer generated always as identity primary key,
  attempt_id integer not null references attempt (id),
  sha256 text not null references stored_file (sha256),
  media text not null check (media in ('image/jpeg', 'image/png')),
  person_id text not null references person (id),
  added_at timestamptz not null default now(),
  removed_at timestamptz
);
create index photo_of_attempt on photo (attempt_id);
