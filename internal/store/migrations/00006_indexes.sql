-- +goose Up

create index reading_at on reading (at);
create index log_entry_recorded on log_entry (recorded_at, id);

-- +goose Down
drop index log_entry_recorded;
drop index reading_at;
