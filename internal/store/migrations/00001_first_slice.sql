-- +goose Up

-- What a shop decided, from when on. History keeps the settings it was made under.
create table shop_setting (
    valid_from  timestamptz primary key,
    name        text not null check (length(name) between 1 and 80),
    time_zone   text not null,
    margin      double precision not null check (margin between 1 and 3),
    week        jsonb not null,  -- seven lists of {open, close}, Sunday first, minutes after midnight
    exceptions  jsonb not null default '{}', -- day -> list of {open, close}; an empty list is a closed day
    recorded_at timestamptz not null default now()
);

create table person (
    id       uuid primary key,
    name     text not null unique check (length(name) between 1 and 60),
    position integer not null
);

create table product (
    id        uuid primary key,
    name      text not null unique check (length(name) between 1 and 80),
    family_id text not null
);

create table product_version (
    product_id uuid not null references product,
    valid_from timestamptz not null,
    sheet      jsonb not null,
    primary key (product_id, valid_from)
);

create table instrument (
    id         uuid primary key,
    name       text not null check (length(name) between 1 and 60),
    outline    text not null check (outline in ('two-horned', 'one-horned', 'slab', 'angular', 'bass')),
    promise    date not null,
    created_at timestamptz not null,
    version    integer not null default 1
);

create table piece (
    id                uuid primary key,
    instrument_id     uuid not null references instrument,
    kind              text not null check (kind in ('body', 'neck', 'whole')),
    position          integer not null,
    recipe_id         text not null,
    length_m          double precision check (length_m > 0),
    length_entered    text not null default '',
    width_m           double precision check (width_m > 0),
    width_entered     text not null default '',
    thickness_m       double precision check (thickness_m > 0),
    thickness_entered text not null default '',
    unique (instrument_id, kind),
    unique (instrument_id, position)
);

create table zone (
    id       uuid primary key,
    piece_id uuid not null references piece,
    name     text not null,
    position integer not null,
    wood_id  text not null,
    area_m2  double precision not null check (area_m2 > 0),
    unique (piece_id, name)
);

-- A step has its identity for life; an event is (step, coat).
create table step (
    id            uuid primary key,
    instrument_id uuid not null references instrument,
    piece_id      uuid not null references piece,
    slot          text not null,
    position      integer not null,
    kind          text not null check (kind in ('sand', 'coat', 'scuff', 'mask-on', 'mask-off', 'level', 'buff', 'inspect', 'gate')),
    title         text not null check (length(title) between 1 and 120),
    role          text not null default '',
    family_id     text not null default '',
    product_id    uuid references product,
    method        text not null default '',
    coats         integer not null check (coats between 1 and 50),
    hands_on_min  integer not null check (hands_on_min between 0 and 1440),
    ladder        jsonb not null default '[]',
    check_id      text not null default '',
    film          text not null default '',
    rest_min      integer not null default 0 check (rest_min >= 0),
    tool          text not null default '',
    how           text not null,
    why           text not null,
    no_return     boolean not null default false,
    version       integer not null default 1,
    check ((kind = 'coat') = (family_id <> '')),
    check (kind = 'coat' or coats = 1),
    unique (instrument_id, slot),
    unique (piece_id, position)
);
create index step_instrument on step (instrument_id);

create table step_zone (
    step_id uuid not null references step,
    zone_id uuid not null references zone,
    primary key (step_id, zone_id)
);

create table step_after (
    step_id  uuid not null references step,
    after_id uuid not null references step,
    primary key (step_id, after_id)
);

-- The accepted order of work: a decision, from which dates are derived.
create table work_order (
    rank    bigint primary key,
    step_id uuid not null references step,
    coat    integer not null,
    unique (step_id, coat)
);

-- What happened. Only ever added to; a correction voids another entry.
create table log_entry (
    id            uuid primary key, -- made by the device, so that sending twice is telling once
    kind          text not null check (kind in ('done', 'skipped', 'failed', 'note', 'void')),
    instrument_id uuid not null references instrument,
    step_id       uuid references step,
    coat          integer,
    voids         uuid references log_entry,
    happened_at   timestamptz not null,
    recorded_at   timestamptz not null,
    person_id     uuid not null references person,
    device_id     uuid not null,
    device_seq    bigint not null,
    minutes       integer check (minutes between 0 and 1440),
    note          text not null default '' check (length(note) <= 2000),
    flags         jsonb not null default '[]', -- what was doubtful when it came in
    figures       jsonb,                       -- what a coat was resolved to, and from where
    unique (device_id, device_seq),
    check ((kind = 'void') = (voids is not null)),
    check (kind in ('void', 'note') or (step_id is not null and coat is not null))
);
create unique index log_entry_voids on log_entry (voids) where voids is not null;
create index log_entry_instrument on log_entry (instrument_id, happened_at, recorded_at, id);
create index log_entry_event on log_entry (step_id, coat);

-- +goose StatementBegin
create function log_is_append_only() returns trigger language plpgsql as $$
begin
    raise exception 'the log is append-only: void an entry instead of changing it';
end
$$;
-- +goose StatementEnd
create trigger log_entry_append_only before update or delete on log_entry
    for each row execute function log_is_append_only();

-- One standing completion per event and zone.
create table completion (
    step_id  uuid not null references step,
    coat     integer not null,
    zone_id  uuid not null references zone,
    entry_id uuid not null references log_entry,
    primary key (step_id, coat, zone_id)
);
create index completion_entry on completion (entry_id);

-- What a change did to the forecasts: written beside it, never read by the planner.
create table forecast_snapshot (
    id            bigint generated always as identity primary key,
    revision      bigint not null,
    at            timestamptz not null,
    cause         text not null,
    entry_id      uuid references log_entry,
    instrument_id uuid not null references instrument,
    finish_before timestamptz,
    finish_after  timestamptz,
    planned_start timestamptz -- of a logged event, when it was logged
);
create index forecast_snapshot_instrument on forecast_snapshot (instrument_id, id);
create index forecast_snapshot_entry on forecast_snapshot (entry_id);

create table revision (
    single boolean primary key default true check (single),
    number bigint not null
);
insert into revision (number) values (1);

-- +goose Down
drop table revision, forecast_snapshot, completion, log_entry, work_order, step_after, step_zone, step, zone, piece,
    instrument, product_version, product, person, shop_setting;
drop function log_is_append_only;
