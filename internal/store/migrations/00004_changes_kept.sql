-- +goose Up

-- Decisions that were kept, by the id that the device made: sending twice is
-- deciding once.
create table change_kept (
    id   uuid primary key,
    said jsonb not null, -- each change in words
    at   timestamptz not null
);

-- +goose Down
drop table change_kept;
