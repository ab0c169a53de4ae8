-- +goose Up

-- Region is the craft's word for a part of a piece's surface.
alter table zone rename to region;
alter table step_zone rename to step_region;
alter table step_region rename column zone_id to region_id;
alter table completion rename column zone_id to region_id;
update instrument set wish = jsonb_set(wish, '{pieces}', (
    select jsonb_agg(case when piece ? 'zones' then piece - 'zones' || jsonb_build_object('regions', piece -> 'zones') else piece end order by n)
    from jsonb_array_elements(wish -> 'pieces') with ordinality as given (piece, n)))
where jsonb_path_exists(wish, '$.pieces[*].zones');

-- +goose Down
update instrument set wish = jsonb_set(wish, '{pieces}', (
    select jsonb_agg(case when piece ? 'regions' then piece - 'regions' || jsonb_build_object('zones', piece -> 'regions') else piece end order by n)
    from jsonb_array_elements(wish -> 'pieces') with ordinality as given (piece, n)))
where jsonb_path_exists(wish, '$.pieces[*].regions');
alter table completion rename column region_id to zone_id;
alter table step_region rename column region_id to zone_id;
alter table step_region rename to step_zone;
alter table region rename to zone;
