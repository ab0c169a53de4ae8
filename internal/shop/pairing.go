package shop

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// Errors of a device that is not let in.
var (
	ErrUnpaired  = errors.New("this device is not paired with the shop")
	ErrWithdrawn = errors.New("this device's pairing has been withdrawn")
)

const (
	codeLetters = "0123456789ABCDEFGHJKMNPQRSTVWXYZ" // without I, L, O and U, which are taken for others
	codeLength  = 8
	codeFor     = 10 * time.Minute
	seenEvery   = time.Minute
	codeTries   = 10 // from one address, within triesFor
)

// CodeAsked is a code for a device that is to be let in.
type CodeAsked struct {
	Role     access.Role `json:"role" enum:"look,bench,shop" doc:"what it may do: look; bench: log and move too; shop: everything"`
	PersonID uuid.UUID   `json:"personId" doc:"who will be on it"`
}

// CodeMade is a code that lets one device in.
type CodeMade struct {
	Code  string          `json:"code" doc:"as a person reads it: K7QF-3MTX"`
	Until snapshot.Moment `json:"until" doc:"when it lapses"`
	Ends  time.Time       `json:"ends"`
}

// MakeCode makes a code that lets one device in within ten minutes.
func (s Devices) MakeCode(ctx context.Context, in CodeAsked) (CodeMade, error) {
	if !slices.Contains(access.Roles, in.Role) {
		return CodeMade{}, refuse.Field("role", "choose look, bench or shop", in.Role)
	}
	m, err := s.now(ctx)
	if err != nil {
		return CodeMade{}, err
	}
	if err := m.WorksHere(in.PersonID); err != nil {
		return CodeMade{}, err
	}
	letters := make([]byte, codeLength)
	rand.Read(letters)
	for i, b := range letters {
		letters[i] = codeLetters[int(b)%len(codeLetters)]
	}
	now := s.clock()
	code := store.PairingCode{Code: digest(string(letters)), Role: string(in.Role), Person: in.PersonID, MadeAt: now,
		ExpiresAt: now.Add(codeFor)}
	if err := s.store.Write(ctx, func(tx *store.Tx) error { return tx.AddPairingCode(ctx, code) }); err != nil {
		return CodeMade{}, err
	}
	return CodeMade{Code: string(letters[:4]) + "-" + string(letters[4:]), Until: m.Moment(code.ExpiresAt), Ends: code.ExpiresAt}, nil
}

func digest(secret string) []byte {
	sum := sha256.Sum256([]byte(secret))
	return sum[:]
}

// PairAsked is a device that asks to be let in.
type PairAsked struct {
	Code   string `json:"code" minLength:"1" maxLength:"40" doc:"as it is shown in Shop; case, spaces and hyphens do not count"`
	Name   string `json:"name" maxLength:"60" doc:"what the device is called in the shop: Bench tablet"`
	Bearer bool   `json:"bearer,omitempty" doc:"the device is no browser: it gets a token in the answer, to send as Authorization: Bearer"`
}

const unknownCode = "this code is not known here, or has lapsed: make another under Shop, Devices; it is good for ten minutes and one " +
	"device"

// Pair lets a device in by its code. It gives what the device shows from then on. It fails with *Invalid on a code that
// there is not, or not any more, and with *Busy where too many were wrong.
func (s Devices) Pair(ctx context.Context, in PairAsked) (token string, caller access.Caller, err error) {
	name := strings.TrimSpace(in.Name)
	if name == "" || len([]rune(name)) > 60 {
		return "", access.Caller{}, refuse.Field("name", "give the device a name of 1 to 60 characters, like Bench tablet", nil)
	}
	now := s.clock()
	forgive, err := s.tries.begin(limit{"codes from " + access.CallerOf(ctx).Address, codeTries})
	if err != nil {
		return "", access.Caller{}, err
	}
	unknown := refuse.Field("code", unknownCode, nil)
	if known, err := s.store.KnowsPairingCode(ctx, digest(plainCode(in.Code)), now); err != nil || !known { // strangers change nothing
		return "", access.Caller{}, cmp.Or[error](err, unknown)
	}
	secret := make([]byte, 32)
	rand.Read(secret)
	token = base64.RawURLEncoding.EncodeToString(secret)
	p := store.Pairing{ID: uuid.Must(uuid.NewV7()), Name: name, Token: digest(token), PairedAt: now, SeenAt: now}
	err = s.store.Write(ctx, func(tx *store.Tx) error {
		code, err := tx.TakePairingCode(ctx, digest(plainCode(in.Code)), now)
		if err != nil {
			return err
		}
		p.Role, p.Person = code.Role, code.Person
		return tx.AddPairing(ctx, p)
	})
	if errors.Is(err, refuse.ErrNotFound) { // another device was quicker
		return "", access.Caller{}, unknown
	}
	if err == nil {
		forgive()
	}
	return token, callerOf(p), err
}

// plainCode is a code without what people write to read it more easily.
func plainCode(text string) string {
	return strings.NewReplacer("-", "", " ", "", "\u2011", "", "\u2013", "", "O", "0", "I", "1", "L", "1").Replace(strings.ToUpper(text))
}

func callerOf(p store.Pairing) access.Caller {
	return access.Caller{Pairing: p.ID, Device: p.Name, Role: access.Role(p.Role), Person: p.Person}
}

// Known is the device that shows a token. It fails with ErrUnpaired or ErrWithdrawn.
func (s Devices) Known(ctx context.Context, token string) (access.Caller, error) {
	p, err := s.store.PairingOf(ctx, digest(token))
	switch {
	case errors.Is(err, refuse.ErrNotFound):
		return access.Caller{}, ErrUnpaired
	case err != nil:
		return access.Caller{}, err
	case p.WithdrawnAt != nil:
		s.looking.Delete(string(p.Token))
		return access.Caller{Withdrawn: true}, ErrWithdrawn
	}
	looker := callerOf(p)
	looker.Role = access.RoleLook
	s.looking.Store(string(p.Token), lookedIn{looker, time.Now()})
	if now := s.clock(); now.Sub(p.SeenAt) > seenEvery {
		if err := s.store.Seen(ctx, p.ID, now); err != nil {
			return access.Caller{}, err
		}
	}
	return callerOf(p), nil
}

// lookingFor is how long a device that was let in may go on looking at the rack while the database does not answer.
const lookingFor = 15 * time.Minute

// lookedIn is a device as one that may look, when it was let in last.
type lookedIn struct {
	caller access.Caller
	at     time.Time
}

// KnownLately is the device that shows a token, as one that may look, where it was let in a while ago.
func (s Devices) KnownLately(token string) (access.Caller, bool) {
	kept, known := s.looking.Load(string(digest(token)))
	if !known {
		return access.Caller{}, false
	}
	last := kept.(lookedIn)
	return last.caller, time.Since(last.at) < lookingFor
}

// Still reports whether a device is still let in; where the database does not say, it is.
func (s Devices) Still(ctx context.Context, pairing uuid.UUID) bool {
	ctx, stop := context.WithTimeout(ctx, readyWithin)
	defer stop()
	withdrawn, err := s.store.Withdrawn(ctx, pairing)
	return err != nil || !withdrawn
}

// PairingView is a device that was let in.
type PairingView struct {
	ID        uuid.UUID        `json:"id"`
	Name      string           `json:"name"`
	Role      access.Role      `json:"role" enum:"look,bench,shop"`
	PersonID  uuid.UUID        `json:"personId"`
	Person    string           `json:"person" doc:"who is on it now"`
	Paired    snapshot.Moment  `json:"paired"`
	Seen      snapshot.Moment  `json:"seen" doc:"when it asked last"`
	Withdrawn *snapshot.Moment `json:"withdrawn,omitempty"`
	This      bool             `json:"this" doc:"it is the device that asks"`
}

// Pairings lists the devices that were let in.
func (s Devices) Pairings(ctx context.Context) ([]PairingView, error) {
	list := []PairingView{}
	m, err := s.now(ctx)
	if err != nil {
		return list, err
	}
	var rows []store.Pairing
	if err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		rows, err = tx.Pairings(ctx)
		return err
	}); err != nil {
		return list, err
	}
	for _, p := range rows {
		view := PairingView{ID: p.ID, Name: p.Name, Role: access.Role(p.Role), PersonID: p.Person, Person: m.PersonName(p.Person),
			Paired: m.Moment(p.PairedAt),
			Seen:   m.Moment(p.SeenAt), This: p.ID == access.CallerOf(ctx).Pairing}
		if p.WithdrawnAt != nil {
			at := m.Moment(*p.WithdrawnAt)
			view.Withdrawn = &at
		}
		list = append(list, view)
	}
	return list, nil
}

// PairingChanged is another name or role of a device, or that it is withdrawn for good.
type PairingChanged struct {
	ID       uuid.UUID   `json:"id"`
	Name     string      `json:"name,omitempty" maxLength:"60" doc:"absent: as it is"`
	Role     access.Role `json:"role,omitempty" enum:"look,bench,shop" doc:"absent: as it is"`
	Withdraw bool        `json:"withdraw,omitempty" doc:"it is let in no more, and forgets what it has seen; what it has not sent yet stays on it"`
}

// ChangePairing changes what a device is called and may do, or lets it in no more.
func (s Devices) ChangePairing(ctx context.Context, in PairingChanged) ([]PairingView, error) {
	if in.Role != "" && !slices.Contains(access.Roles, in.Role) {
		return nil, refuse.Field("role", "choose look, bench or shop", in.Role)
	}
	err := s.store.Write(ctx, func(tx *store.Tx) error {
		rows, err := tx.Pairings(ctx)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(rows, func(p store.Pairing) bool { return p.ID == in.ID })
		if at < 0 {
			return refuse.Missing("paired device", in.ID)
		}
		p := rows[at]
		if name := strings.TrimSpace(in.Name); name != "" {
			p.Name = name
		}
		if in.Role != "" {
			p.Role = string(in.Role)
		}
		if now := s.clock(); in.Withdraw && p.WithdrawnAt == nil {
			p.WithdrawnAt = &now
			s.looking.Clear()
		}
		return tx.ChangePairing(ctx, p)
	})
	if err != nil {
		return nil, err
	}
	return s.Pairings(ctx)
}
