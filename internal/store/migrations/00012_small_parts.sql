-- +goose Up

-- Layers lie on regions: no region is plain any more. Small parts are pieces.
alter table region drop column plain;
alter table piece drop constraint piece_kind_check;
alter table piece add constraint piece_kind_check
    check (kind in ('body', 'neck', 'cavity', 'fretboard', 'frets', 'whole', 'hardware', 'plastics', 'fittings'));

-- An outline of its own, as SVG path data; empty: the one it is named by.
alter table instrument add column outline_path text not null default '' check (length(outline_path) <= 20000);

-- +goose Down
alter table instrument drop column outline_path;
alter table piece drop constraint piece_kind_check;
alter table piece add constraint piece_kind_check check (kind in ('body', 'neck', 'cavity', 'fretboard', 'frets', 'whole')) not valid;
alter table region add column plain boolean not null default false;
