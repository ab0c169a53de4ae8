-- +goose Up

-- Somewhere in the shop. What it is like is kept from when on.
create table place (
    id       uuid primary key,
    position integer not null
);

create table place_version (
    place_id   uuid not null references place,
    valid_from timestamptz not null,
    name       text not null check (length(name) between 1 and 60),
    kind       text not null check (kind in ('bench', 'booth', 'wheel', 'drying')),
    capacity   integer not null default 0 check (capacity between 0 and 1000), -- pieces at a time; 0: no limit
    week       jsonb,                       -- hours of its own, as in shop_setting
    exceptions jsonb not null default '{}',
    air        text not null default '',    -- places with the same air share its dust
    hangs_in   uuid references place,
    hooks      integer not null default 0 check (hooks between 0 and 1000),
    profile    jsonb,                       -- its usual air: knots by hour of the local week, and months
    primary key (place_id, valid_from)
);

-- The air of a place at a moment. Only ever added to: of two readings at one
-- moment the one recorded later counts. Only the very same one is not kept twice.
create table reading (
    id            bigint generated always as identity primary key,
    place_id      uuid not null references place,
    at            timestamptz not null,
    recorded_at   timestamptz not null,
    temperature_c double precision not null check (temperature_c between -30 and 60),
    humidity_pct  double precision not null check (humidity_pct between 1 and 100),
    surface_c     double precision check (surface_c between -30 and 80),
    entered       text not null default '', -- as it was typed; empty from a device
    person_id     uuid references person,
    unique (place_id, at, recorded_at, temperature_c, humidity_pct, entered)
);

alter table person add column week jsonb; -- hours of their own, as in shop_setting

alter table instrument
    add column show_day date,
    add column weight double precision not null default 1 check (weight between 0 and 1000);

alter table step
    add column place_id uuid references place,
    add column setup_min integer not null default 0 check (setup_min between 0 and 1440),
    add column scuff_min integer not null default 0 check (scuff_min between 0 and 1440),
    add column terms jsonb not null default '{}', -- what some steps ask beyond the plain
    drop constraint step_check1,
    add constraint step_counted check (kind = 'coat' or coats = 1 or terms ? 'repeat');

-- An event that somebody fixed to a time.
create table pin (
    step_id   uuid not null references step,
    coat      integer not null,
    at        timestamptz not null,
    person_id uuid references person,
    made_at   timestamptz not null,
    primary key (step_id, coat)
);

alter table log_entry
    add column piece_id uuid references piece,
    add column place_id uuid references place,
    add column milestone text not null default '',
    add column passed boolean,
    drop constraint log_entry_kind_check,
    drop constraint log_entry_check1,
    add constraint log_entry_kind_check check (kind in ('done', 'skipped', 'failed', 'note', 'void', 'moved', 'tested', 'settled')),
    add constraint log_entry_event check (kind in ('void', 'note', 'moved') or (step_id is not null and coat is not null)),
    add constraint log_entry_moved check ((kind = 'moved') = (piece_id is not null and place_id is not null)),
    add constraint log_entry_tested check ((kind = 'tested') = (milestone <> '' and passed is not null));
create index log_entry_facts on log_entry (kind) where kind in ('moved', 'tested', 'settled');

-- +goose Down
alter table log_entry
    drop constraint log_entry_tested, drop constraint log_entry_moved, drop constraint log_entry_event,
    drop column passed, drop column milestone, drop column place_id, drop column piece_id;
drop table pin;
alter table step drop constraint step_counted, drop column terms, drop column scuff_min, drop column setup_min, drop column place_id;
alter table instrument drop column weight, drop column show_day;
alter table person drop column week;
drop table reading, place_version, place;
