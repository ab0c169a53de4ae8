package shop

import (
	"context"
	"crypto/pbkdf2"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/hex"
	"errors"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

const (
	pinTries     = 5  // on one device, within triesFor
	pinTriesFrom = 20 // from one address
	pinRounds    = 120_000
)

// OnDevice is who is on the device that asks, from now on.
type OnDevice struct {
	PersonID uuid.UUID `json:"personId"`
	Pin      string    `json:"pin,omitempty" maxLength:"12" doc:"of that person, where they have one"`
}

// BeOnDevice lets somebody be on the device that asks. It fails with *Invalid on a wrong PIN, and with *Busy where too
// many were wrong. On the shop's own machine nothing is kept: what it says is believed.
func (s Devices) BeOnDevice(ctx context.Context, in OnDevice) (access.Caller, error) {
	caller := access.CallerOf(ctx)
	m, err := s.now(ctx)
	if err != nil {
		return caller, err
	}
	if err := m.WorksHere(in.PersonID); err != nil || caller.Pairing == uuid.Nil {
		return caller, err
	}
	if err := s.checkPin(ctx, m, in); err != nil {
		return caller, err
	}
	err = s.store.Write(ctx, func(tx *store.Tx) error { return tx.BeOnPairing(ctx, caller.Pairing, in.PersonID) })
	switch {
	case errors.Is(err, refuse.ErrNotFound):
		return caller, ErrWithdrawn // while this was on its way
	case err == nil:
		caller.Person = in.PersonID
	}
	return caller, err
}

// checkPin fails with *Invalid where somebody has another PIN, and with *Busy where too many were tried from this device or
// its address.
func (s Devices) checkPin(ctx context.Context, m *snapshot.Snapshot, in OnDevice) error {
	caller := access.CallerOf(ctx)
	forgive, err := s.tries.begin(limit{"pin on " + caller.Pairing.String(), pinTries}, limit{"pin from " + caller.Address, pinTriesFrom})
	if err != nil {
		return err
	}
	right, err := s.rightPin(ctx, in)
	if err == nil && !right {
		return refuse.Field("pin", "this is not the PIN of "+m.PersonName(in.PersonID), nil)
	}
	forgive() // it was right, or nobody has judged it
	return err
}

func (s Devices) rightPin(ctx context.Context, in OnDevice) (bool, error) {
	kept, err := s.store.PinOf(ctx, in.PersonID)
	if err != nil || kept == nil {
		return err == nil, err
	}
	end, err := s.hashing.take(ctx)
	if err != nil {
		return false, err
	}
	defer end()
	return isPin(in.Pin, *kept), nil
}

// PinSet is a person's PIN, or that they have none.
type PinSet struct {
	PersonID uuid.UUID `json:"personId"`
	Pin      string    `json:"pin" maxLength:"12" doc:"4 to 8 digits; empty: none is asked for"`
}

// SetPin keeps what somebody enters to be the one who is on a device.
func (s Devices) SetPin(ctx context.Context, in PinSet) error {
	m, err := s.now(ctx)
	if err != nil {
		return err
	}
	if err := m.WorksHere(in.PersonID); err != nil {
		return err
	}
	var kept *string
	if in.Pin != "" {
		if len(in.Pin) < 4 || len(in.Pin) > 8 || strings.Trim(in.Pin, "0123456789") != "" {
			return refuse.Field("pin", "a PIN has 4 to 8 digits; empty, none is asked for", nil)
		}
		salt := make([]byte, 16)
		rand.Read(salt)
		end, err := s.hashing.take(ctx)
		if err != nil {
			return err
		}
		made := pinDigest(in.Pin, salt)
		end()
		kept = &made
	}
	return s.store.Write(ctx, func(tx *store.Tx) error { return tx.SetPin(ctx, in.PersonID, kept) })
}

// Pinned are the people who enter a PIN before they are on a device.
func (s Devices) Pinned(ctx context.Context) ([]uuid.UUID, error) { return s.store.Pinned(ctx) }

// pinDigest is a PIN as it is kept: slow to guess, though eight digits are guessed by whoever has the database.
func pinDigest(pin string, salt []byte) string {
	key, err := pbkdf2.Key(sha256.New, pin, salt, pinRounds, 32)
	if err != nil {
		panic(err) // of figures that stand above
	}
	return hex.EncodeToString(salt) + "$" + hex.EncodeToString(key)
}

func isPin(pin, kept string) bool {
	text, _, _ := strings.Cut(kept, "$")
	salt, err := hex.DecodeString(text)
	return err == nil && subtle.ConstantTimeCompare([]byte(pinDigest(pin, salt)), []byte(kept)) == 1
}
