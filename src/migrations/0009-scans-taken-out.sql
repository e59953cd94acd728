-- A scan that came to the wrong place is taken out of its sitting: the row and the file stay.
alter table scan add column removed_at timestamptz;
alter table scan add column removed_by text references person (id);

-- The measurement that an attempt is graded on: the last one chosen whose scan is still the attempt's own.
create view graded_now as
  select distinct on (c.attempt_id) c.attempt_id, c.measurement_id
  from graded_on c
    join measurement m on m.id = c.measurement_id
    join scan s on s.id = m.scan_id and s.attempt_id = c.attempt_id and s.removed_at is null
  order by c.attempt_id, c.id desc;
