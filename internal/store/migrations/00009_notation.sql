-- +goose Up

-- How a shop is used to having figures written; what is absent is °C, mm, 24 h, day before month, weeks from Monday.
alter table shop_setting add column notation jsonb not null default '{}';

-- +goose Down
alter table shop_setting drop column notation;
