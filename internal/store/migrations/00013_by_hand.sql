-- +goose Up

-- The schedule changed by hand.
alter table step
    add column moved boolean not null default false,                                        -- composing again leaves it where it stands
    add column out_because text not null default '' check (length(out_because) <= 200),     -- why it is left out as a whole; empty: it is not
    add column note text not null default '' check (length(note) <= 500);                   -- in addition to how it is done

-- What a step was to be when an entry about it was made.
alter table log_entry add column planned jsonb not null default 'null';

-- What was changed by hand can be taken back for a day: what it was and what it became.
create table schedule_edit (
    id            uuid primary key,
    instrument_id uuid not null references instrument,
    at            timestamptz not null,
    person_id     uuid references person,
    said          jsonb not null, -- each change in words
    delta         jsonb not null, -- the schedule before and after
    places        jsonb not null, -- the same of the order of work and the pins
    undone        boolean not null default false
);
create index schedule_edit_of on schedule_edit (instrument_id, at, id);

-- +goose Down
drop table schedule_edit;
alter table log_entry drop column planned;
alter table step drop column note, drop column out_because, drop column moved;
