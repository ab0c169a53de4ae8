-- +goose Up

-- A device keeps what it could not send yet for one shop: a demo and an own shop may answer at the same address.
alter table revision add column shop_id uuid not null default gen_random_uuid();

-- +goose Down
alter table revision drop column shop_id;
