package store

import (
	"context"
	"time"

	"github.com/google/uuid"
)

// Pairing is a device that was let in.
type Pairing struct {
	ID          uuid.UUID  `db:"id"`
	Name        string     `db:"name"`
	Role        string     `db:"role"`
	Person      uuid.UUID  `db:"person_id"` // who is on it now
	Token       []byte     `db:"token"`     // the digest of what it shows
	PairedAt    time.Time  `db:"paired_at"`
	SeenAt      time.Time  `db:"seen_at"`
	WithdrawnAt *time.Time `db:"withdrawn_at"`
}

// PairingCode lets one device in, once.
type PairingCode struct {
	Code      []byte    `db:"code"` // its digest
	Role      string    `db:"role"`
	Person    uuid.UUID `db:"person_id"`
	MadeAt    time.Time `db:"made_at"`
	ExpiresAt time.Time `db:"expires_at"`
}

// PairingOf returns the device that shows something of this digest, withdrawn or not. ErrNotFound when there is none.
func (s *Store) PairingOf(ctx context.Context, token []byte) (Pairing, error) {
	var p Pairing
	err := s.db.GetContext(ctx, &p, `select * from pairing where token = $1`, token)
	return p, explain(err)
}

// Withdrawn reports whether a device is let in no more.
func (s *Store) Withdrawn(ctx context.Context, pairing uuid.UUID) (bool, error) {
	var withdrawn bool
	err := s.db.GetContext(ctx, &withdrawn, `select coalesce((select withdrawn_at is not null from pairing where id = $1), true)`, pairing)
	return withdrawn, explain(err)
}

// Seen keeps when a device asked last. It is no change of the shop.
func (s *Store) Seen(ctx context.Context, pairing uuid.UUID, at time.Time) error {
	_, err := s.db.ExecContext(ctx, `update pairing set seen_at = greatest(seen_at, $2) where id = $1`, pairing, at)
	return explain(err)
}

// Pairings lists the devices that were let in, the last one first, withdrawn ones behind.
func (tx *Tx) Pairings(ctx context.Context) ([]Pairing, error) {
	return all[Pairing](ctx, tx, most, `select * from pairing order by withdrawn_at desc nulls first, paired_at desc, id limit $1`)
}

// AddPairing lets a device in.
func (tx *Tx) AddPairing(ctx context.Context, p Pairing) error {
	_, err := tx.sql.NamedExecContext(ctx, `insert into pairing (id, name, role, person_id, token, paired_at, seen_at)
		values (:id, :name, :role, :person_id, :token, :paired_at, :seen_at)`, p)
	return explain(err)
}

// ChangePairing keeps another name, role or person of a device, or that it is withdrawn. ErrNotFound when there is none.
func (tx *Tx) ChangePairing(ctx context.Context, p Pairing) error {
	return some(tx.sql.NamedExecContext(ctx, `
		update pairing set name = :name, role = :role, person_id = :person_id, withdrawn_at = :withdrawn_at
		where id = :id`, p))
}

// BeOnPairing keeps who is on a device. ErrNotFound when it is withdrawn: what else is changed of it meanwhile stays.
func (tx *Tx) BeOnPairing(ctx context.Context, pairing, person uuid.UUID) error {
	return some(tx.sql.ExecContext(ctx, `update pairing set person_id = $2 where id = $1 and withdrawn_at is null`, pairing, person))
}

// AddPairingCode keeps a code, and drops those that have expired.
func (tx *Tx) AddPairingCode(ctx context.Context, c PairingCode) error {
	if _, err := tx.sql.ExecContext(ctx, `delete from pairing_code where expires_at <= $1`, c.MadeAt); err != nil {
		return explain(err)
	}
	_, err := tx.sql.NamedExecContext(ctx, `insert into pairing_code (code, role, person_id, made_at, expires_at)
		values (:code, :role, :person_id, :made_at, :expires_at)`, c)
	return explain(err)
}

// KnowsPairingCode reports whether there is a code that has not lapsed.
func (s *Store) KnowsPairingCode(ctx context.Context, code []byte, now time.Time) (bool, error) {
	var known bool
	err := s.db.GetContext(ctx, &known, `select exists (select from pairing_code where code = $1 and expires_at > $2)`, code, now)
	return known, explain(err)
}

// TakePairingCode uses a code up. ErrNotFound when there is none, or it has expired.
func (tx *Tx) TakePairingCode(ctx context.Context, code []byte, now time.Time) (PairingCode, error) {
	var c PairingCode
	err := tx.sql.GetContext(ctx, &c, `delete from pairing_code where code = $1 and expires_at > $2 returning *`, code, now)
	return c, explain(err)
}

// PinOf is the digest of the number that somebody has; nil: none.
func (s *Store) PinOf(ctx context.Context, person uuid.UUID) (*string, error) {
	var pin *string
	err := s.db.GetContext(ctx, &pin, `select pin from person where id = $1`, person)
	return pin, explain(err)
}

// Pinned lists who has a number.
func (s *Store) Pinned(ctx context.Context) ([]uuid.UUID, error) {
	people := []uuid.UUID{}
	err := s.db.SelectContext(ctx, &people, `select id from person where pin is not null order by position limit $1`, most)
	return people, explain(err)
}

// SetPin keeps the digest of somebody's number; nil: none is asked for. ErrNotFound when there is no such person.
func (tx *Tx) SetPin(ctx context.Context, person uuid.UUID, pin *string) error {
	return some(tx.sql.ExecContext(ctx, `update person set pin = $2 where id = $1`, person, pin))
}
