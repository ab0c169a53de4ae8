-- +goose Up

-- Which outlines there are stands with their geometry, in craft/outline.
alter table instrument drop constraint instrument_outline_check;

-- +goose Down
alter table instrument add constraint instrument_outline_check
	check (outline in ('two-horned', 'one-horned', 'slab', 'angular', 'bass')) not valid;
