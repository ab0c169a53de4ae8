-- +goose Up

-- The schedule changed by hand.
alter table step
    add column moved boolean not null default false,                                        -- composing again leaves it where it stands
    add column out_because text not null default '' check (length(out_because) <= 200),     -- why it is left out as a whole; empty: it is not
    add column note text not null default '' check (length(note) <= 500),                   -- in addition to how it is done
    add column recipe text not null default '';                                             -- the own recipe that it came with, id/version

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

-- Recipes of the shop's own. What was saved once is never changed: bettered, a recipe has another version.
create table own_recipe (
    id         uuid primary key,
    name       text not null check (length(name) between 1 and 60),
    kind       text not null check (kind in ('stack', 'schedule', 'fragment')),
    retired    boolean not null default false,
    created_at timestamptz not null
);
create table own_recipe_version (
    recipe_id uuid not null references own_recipe,
    version   integer not null check (version >= 1),
    at        timestamptz not null,
    person_id uuid references person,
    note      text not null default '' check (length(note) <= 200),
    content   jsonb not null,
    primary key (recipe_id, version)
);

-- The schools that the shop follows where nobody chooses, by topic.
alter table shop_setting add column ways jsonb not null default '{}';

-- +goose Down
alter table shop_setting drop column ways;
drop table own_recipe_version, own_recipe;
drop table schedule_edit;
alter table log_entry drop column planned;
alter table step drop column recipe, drop column note, drop column out_because, drop column moved;
