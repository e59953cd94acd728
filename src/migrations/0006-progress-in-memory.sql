-- How far a scan has come is kept by the server while it measures; writing it down many times a second held the answers up.
alter table scan drop column stage, drop column progress_share;
