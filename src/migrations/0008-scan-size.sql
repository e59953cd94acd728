-- A person may say that a scan's size is to be corrected; the factor by which it is too large comes from its own measurement.
alter table scan add column too_large_by double precision check (too_large_by > 0.5 and too_large_by < 2);
alter table scan add column sized_by text references person (id);
