-- +goose Up

alter table person add column has_left boolean not null default false; -- kept for the log, no longer planned with

-- A better order of work that somebody did not want, by what it would gain: not
-- offered again for some days.
create table proposal_dismissed (
    gain  text primary key check (length(gain) between 1 and 2000),
    at    timestamptz not null
);

-- +goose Down
drop table proposal_dismissed;
alter table person drop column has_left;
