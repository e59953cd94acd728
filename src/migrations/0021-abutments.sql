-- Two exercises whose preparations stand in one arch and share a path of insertion, as the abutments of a bridge do; each names the other.
alter table exercise add column abutment text references exercise (id);
alter table exercise add constraint abutment_is_another check (abutment <> id);

-- The other abutment that a measurement was read against: its master and its kind of preparation.
create table measured_beside (
  measurement_id integer primary key references measurement (id),
  master_sha256 text not null,
  kind text not null
);
