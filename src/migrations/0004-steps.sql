-- Where the cutting stood when a scan was taken; only what is finished is graded.
alter table scan add column step text not null default 'final' check (step in ('occlusal', 'axial', 'outline', 'box', 'final'));
