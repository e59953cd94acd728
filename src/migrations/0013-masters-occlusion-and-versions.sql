-- How the opposing arch was brought to its place, the proof cut into a master, and what its file held beyond what is read.
alter table master_draft add column bite_sha256 text references stored_file (sha256);
alter table master_draft add column bite_name text;
alter table master_draft add column occlusion jsonb;
alter table master_draft add column trial jsonb;
alter table master_draft add column opposing_display_sha256 text references stored_file (sha256);
alter table master_draft add column extra jsonb not null default '{}';
-- What a new version changed against the one before: marks, surfaces, and attempts measured again on both.
alter table master_draft add column compared jsonb;
