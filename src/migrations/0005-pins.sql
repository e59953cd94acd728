-- Places that an instructor marked on the tooth, with what is said of them. Points are of the master file's frame, mm.
create table pin (
  id serial primary key,
  attempt_id integer not null references attempt (id),
  criterion_id text not null,
  x_mm double precision not null check (x_mm > '-infinity' and x_mm < 'infinity'),
  y_mm double precision not null check (y_mm > '-infinity' and y_mm < 'infinity'),
  z_mm double precision not null check (z_mm > '-infinity' and z_mm < 'infinity'),
  note text not null,
  person_id text not null references person (id),
  made_at timestamptz not null default now()
);
create index pin_attempt on pin (attempt_id);
