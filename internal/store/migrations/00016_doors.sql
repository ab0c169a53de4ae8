-- +goose Up

-- A device that somebody has let in. What it shows to be let in again is kept as its digest only.
create table pairing (
    id           uuid primary key,
    name         text not null check (length(name) between 1 and 60),
    role         text not null check (role in ('look', 'bench', 'shop')),
    person_id    uuid not null references person, -- who is on it now
    token        bytea not null unique check (length(token) = 32),
    paired_at    timestamptz not null,
    seen_at      timestamptz not null,
    withdrawn_at timestamptz
);

-- A code that lets one device in, once.
create table pairing_code (
    code       bytea primary key check (length(code) = 32),
    role       text not null check (role in ('look', 'bench', 'shop')),
    person_id  uuid not null references person,
    made_at    timestamptz not null,
    expires_at timestamptz not null check (expires_at > made_at)
);

-- The digest of a number that somebody enters to be the one who is on a device; none is asked for where it is null.
alter table person add column pin text;

-- On which paired device an entry was made, and who was on it; null on the shop's own machine.
alter table log_entry add column entered jsonb;

-- What was kept under an id that a device made: the same once more is kept once, something else under it is refused.
create table request (
    id        uuid primary key,
    operation text not null,
    digest    bytea not null check (length(digest) = 32), -- of what was asked for
    at        timestamptz not null
);

-- A reading can be struck: it stays, and counts no more.
alter table reading
    add column uid       uuid not null unique default gen_random_uuid(),
    add column struck_at timestamptz,
    add column struck_by uuid references person;

-- +goose Down
alter table reading drop column struck_by, drop column struck_at, drop column uid;
drop table request;
alter table log_entry drop column entered;
alter table person drop column pin;
drop table pairing_code, pairing;
