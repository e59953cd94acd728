-- Three pairs of points set by hand where no pose could be found: row-major 4 x 4, scan to master file, and who set it.
alter table scan add column hand_pose jsonb;
alter table scan add column posed_by text references person (id);
