-- +goose Up

-- An instrument that is put aside is planned no more; its schedule and its log stay.
alter table instrument add column archived_at timestamptz;

-- Changes of a promise or a name are told in the history of the date, also where the date stands.
alter table forecast_snapshot add column told boolean not null default false;

-- +goose Down
alter table forecast_snapshot drop column told;
alter table instrument drop column archived_at;
