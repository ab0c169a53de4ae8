-- +goose Up

-- A sitting that somebody began: it owns the entries and the timers that were made in it.
create table sitting (
    id         uuid primary key, -- made by the device
    place_id   uuid references place,
    person_id  uuid not null references person,
    started_at timestamptz not null,
    ended_at   timestamptz check (ended_at >= started_at),
    events     jsonb not null, -- what was to be done, in order
    seen       jsonb not null default '[]' -- cautions that were acknowledged
);
create index sitting_started on sitting (started_at, id);

-- What was true of work, the timers that belong to it, and entries that were put right.
alter table log_entry
    add column actual     jsonb not null default 'null',
    add column timer      jsonb not null default 'null',
    add column stops      uuid references log_entry,
    add column corrects   uuid references log_entry,
    add column sitting_id uuid references sitting,
    drop constraint log_entry_kind_check,
    add constraint log_entry_kind_check
        check (kind in ('done', 'skipped', 'failed', 'note', 'void', 'moved', 'tested', 'settled', 'timed', 'stopped')),
    drop constraint log_entry_event,
    add constraint log_entry_event check (kind in ('void', 'note', 'moved', 'stopped') or (step_id is not null and coat is not null)),
    add constraint log_entry_timed check ((kind = 'timed') = (timer <> 'null')),
    add constraint log_entry_stopped check ((kind = 'stopped') = (stops is not null));
create unique index log_entry_stops on log_entry (stops) where stops is not null;
create index log_entry_timers on log_entry (happened_at) where kind = 'timed';
create index log_entry_minutes on log_entry (happened_at) where kind = 'done' and minutes is not null;
create index log_entry_sitting on log_entry (sitting_id) where sitting_id is not null;
create index log_entry_order on log_entry (happened_at, recorded_at, id);

-- +goose Down
drop index log_entry_order, log_entry_sitting, log_entry_minutes, log_entry_timers, log_entry_stops;
alter table log_entry
    drop constraint log_entry_stopped, drop constraint log_entry_timed, drop constraint log_entry_event,
    drop constraint log_entry_kind_check,
    drop column sitting_id, drop column corrects, drop column stops, drop column timer, drop column actual,
    add constraint log_entry_kind_check check (kind in ('done', 'skipped', 'failed', 'note', 'void', 'moved', 'tested', 'settled')),
    add constraint log_entry_event check (kind in ('void', 'note', 'moved') or (step_id is not null and coat is not null));
drop table sitting;
