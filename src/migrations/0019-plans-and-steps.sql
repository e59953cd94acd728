-- How a course plans an exercise where schools differ.
alter table exercise add column plan_choices jsonb not null default '{}';

-- What happens at a student's bench, one row a happening: a step begun or paused, an own reading, a question, another tooth. The device names each by a key of
-- its own, so that what is sent twice after a lost connection is kept once.
create table bench_event (
  id serial primary key,
  attempt_id integer not null references attempt (id),
  key text not null,
  kind text not null check (kind in ('begin', 'pause', 'done', 'entry', 'ask', 'tooth')),
  step text not null,
  body jsonb not null default '{}',
  -- By the device's clock, and by ours.
  at timestamptz not null,
  arrived_at timestamptz not null default now(),
  made_by text not null references person (id),
  unique (attempt_id, key)
);
create index bench_event_attempt on bench_event (attempt_id, id);

-- An instructor's word on a step, with their initials.
create table bench_word (
  id serial primary key,
  attempt_id integer not null references attempt (id),
  step text not null,
  word text not null check (word in ('go-on', 'correct', 'new-tooth')),
  note text not null default '',
  initials text not null,
  given_by text not null references person (id),
  given_at timestamptz not null default now()
);
create index bench_word_attempt on bench_word (attempt_id, id);
