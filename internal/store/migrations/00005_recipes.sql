-- +goose Up

alter table instrument
    add column serial text not null default '' check (length(serial) <= 60),
    add column wish jsonb; -- what was wanted of it, in looks and ways of working; null where it came from elsewhere

alter table piece
    drop constraint piece_kind_check,
    add constraint piece_kind_check check (kind in ('body', 'neck', 'cavity', 'fretboard', 'frets', 'whole'));

alter table zone
    add column sheen text not null default '' check (sheen in ('', 'matte', 'satin', 'gloss')),
    add column plain boolean not null default false; -- it stays without the colour of its piece

alter table step
    add column school text not null default '',  -- the way that is followed: topic/option
    add column sheen text not null default '' check (sheen in ('', 'matte', 'satin', 'gloss')), -- what a coat leaves out of the can
    add column edited boolean not null default false; -- changed by hand: composing again leaves it

-- +goose Down
alter table step drop column edited, drop column sheen, drop column school;
alter table zone drop column plain, drop column sheen;
alter table piece drop constraint piece_kind_check, add constraint piece_kind_check check (kind in ('body', 'neck', 'whole'));
alter table instrument drop column wish, drop column serial;
