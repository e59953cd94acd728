-- A photograph that a student takes of a step at the bench lies with the others. The device names it by a key of its own, so that what is sent twice after a
-- lost connection is kept once. Without a step a photograph is a grader's, beside an attempt that is read by hand.
alter table photo add column step text;
alter table photo add column key text;
alter table photo add column taken_at timestamptz;
alter table photo add constraint photo_of_step check ((step is null) = (key is null) and (step is null) = (taken_at is null));
create unique index photo_key on photo (attempt_id, key);
