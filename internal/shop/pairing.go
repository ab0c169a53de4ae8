package shop

import (
	"context"
	"crypto/pbkdf2"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/store"
)

// Errors of a device that is not let in.
var (
	ErrUnpaired  = errors.New("this device is not paired with the shop")
	ErrWithdrawn = errors.New("this device's pairing has been withdrawn")
)

// Role is what a device may do: each may do what those before it may.
type Role string

// Roles, the least first: to look at everything and ask what would be; to log and move what is planned; to change the shop.
const (
	RoleLook  Role = "look"
	RoleBench Role = "bench"
	RoleShop  Role = "shop"
)

var roles = []Role{RoleLook, RoleBench, RoleShop}

// May reports whether a role is enough for what needs another.
func (r Role) May(need Role) bool {
	return slices.Contains(roles, r) && slices.Index(roles, r) >= slices.Index(roles, need)
}

// Caller is who asks for something: a paired device, or the shop's own machine, which may do everything.
type Caller struct {
	Pairing uuid.UUID // none: the machine itself
	Device  string    // its name
	Role    Role
	Person  uuid.UUID // who is on the device now

	Withdrawn bool // it was a paired device once, and may do nothing
}

type callerKey struct{}

// As is a context in which a caller asks.
func As(ctx context.Context, c Caller) context.Context { return context.WithValue(ctx, callerKey{}, c) }

// CallerOf is who asks in a context: where nobody said, the machine itself.
func CallerOf(ctx context.Context) Caller {
	if c, said := ctx.Value(callerKey{}).(Caller); said {
		return c
	}
	return Caller{Role: RoleShop}
}

// who is the person that decides something: on a paired device the one who is on it, whatever a request claims.
func who(ctx context.Context, claimed uuid.UUID) uuid.UUID {
	if c := CallerOf(ctx); c.Pairing != uuid.Nil {
		return c.Person
	}
	return claimed
}

const (
	codeLetters = "0123456789ABCDEFGHJKMNPQRSTVWXYZ" // without I, L, O and U, which are taken for others
	codeLength  = 8
	codeFor     = 10 * time.Minute
	seenEvery   = time.Minute
	codeTries   = 10 // wrong ones within triesFor, by anybody
	pinTries    = 5  // on one device
	triesFor    = 5 * time.Minute
	pinRounds   = 120_000
)

// CodeAsked is a code for a device that is to be let in.
type CodeAsked struct {
	Role     Role      `json:"role" enum:"look,bench,shop" doc:"what it may do: look; bench: log and move too; shop: everything"`
	PersonID uuid.UUID `json:"personId" doc:"who will be on it"`
}

// CodeMade is a code that lets one device in.
type CodeMade struct {
	Code  string    `json:"code" doc:"as a person reads it: K7QF-3MTX"`
	Until Moment    `json:"until" doc:"when it lapses"`
	Ends  time.Time `json:"ends"`
}

// MakeCode makes a code that lets one device in within ten minutes.
func (s *Service) MakeCode(ctx context.Context, in CodeAsked) (CodeMade, error) {
	if !slices.Contains(roles, in.Role) {
		return CodeMade{}, invalid("role", "choose look, bench or shop", in.Role)
	}
	m, err := s.now(ctx)
	if err != nil {
		return CodeMade{}, err
	}
	if err := m.worksHere(in.PersonID); err != nil {
		return CodeMade{}, err
	}
	letters := make([]byte, codeLength)
	rand.Read(letters)
	for i, b := range letters {
		letters[i] = codeLetters[int(b)%len(codeLetters)]
	}
	now := s.clock()
	code := store.PairingCode{Code: digest(string(letters)), Role: string(in.Role), Person: in.PersonID, MadeAt: now, ExpiresAt: now.Add(codeFor)}
	if err := s.store.Write(ctx, func(tx *store.Tx) error { return tx.AddPairingCode(ctx, code) }); err != nil {
		return CodeMade{}, err
	}
	return CodeMade{Code: string(letters[:4]) + "-" + string(letters[4:]), Until: m.moment(code.ExpiresAt), Ends: code.ExpiresAt}, nil
}

// worksHere refuses who is nobody of this shop.
func (m *moment) worksHere(person uuid.UUID) error {
	if !slices.ContainsFunc(m.people, func(p store.Person) bool { return p.ID == person && !p.Left }) {
		return invalid("personId", "must be one of the people who work in this shop", nil)
	}
	return nil
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

// Pair lets a device in by its code. It gives what the device shows from then on. It fails with *Invalid on a code that
// there is not, or not any more, and with *Busy where too many were wrong.
func (s *Service) Pair(ctx context.Context, in PairAsked) (token string, caller Caller, err error) {
	name := strings.TrimSpace(in.Name)
	if name == "" || len([]rune(name)) > 60 {
		return "", Caller{}, invalid("name", "give the device a name of 1 to 60 characters, like Bench tablet", nil)
	}
	now := s.clock()
	if err := s.tries.allow("codes", codeTries); err != nil {
		return "", Caller{}, err
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
	if errors.Is(err, ErrNotFound) {
		s.tries.failed("codes")
		return "", Caller{}, invalid("code", "this code is not known here, or has lapsed: make another under Shop, Devices; it is good for ten minutes and one device", nil)
	}
	return token, callerOf(p), err
}

// plainCode is a code without what people write to read it more easily.
func plainCode(text string) string {
	return strings.NewReplacer("-", "", " ", "", "\u2011", "", "\u2013", "", "O", "0", "I", "1", "L", "1").Replace(strings.ToUpper(text))
}

func callerOf(p store.Pairing) Caller {
	return Caller{Pairing: p.ID, Device: p.Name, Role: Role(p.Role), Person: p.Person}
}

// Known is the device that shows a token. It fails with ErrUnpaired or ErrWithdrawn.
func (s *Service) Known(ctx context.Context, token string) (Caller, error) {
	p, err := s.store.PairingOf(ctx, digest(token))
	switch {
	case errors.Is(err, ErrNotFound):
		return Caller{}, ErrUnpaired
	case err != nil:
		return Caller{}, err
	case p.WithdrawnAt != nil:
		return Caller{Withdrawn: true}, ErrWithdrawn
	}
	if now := s.clock(); now.Sub(p.SeenAt) > seenEvery {
		if err := s.store.Seen(ctx, p.ID, now); err != nil {
			return Caller{}, err
		}
	}
	return callerOf(p), nil
}

// Still reports whether a device is still let in; where the database does not say, it is.
func (s *Service) Still(ctx context.Context, pairing uuid.UUID) bool {
	ctx, stop := context.WithTimeout(ctx, readyWithin)
	defer stop()
	withdrawn, err := s.store.Withdrawn(ctx, pairing)
	return err != nil || !withdrawn
}

// PairingView is a device that was let in.
type PairingView struct {
	ID        uuid.UUID `json:"id"`
	Name      string    `json:"name"`
	Role      Role      `json:"role" enum:"look,bench,shop"`
	PersonID  uuid.UUID `json:"personId"`
	Person    string    `json:"person" doc:"who is on it now"`
	Paired    Moment    `json:"paired"`
	Seen      Moment    `json:"seen" doc:"when it asked last"`
	Withdrawn *Moment   `json:"withdrawn,omitempty"`
	This      bool      `json:"this" doc:"it is the device that asks"`
}

// Pairings lists the devices that were let in.
func (s *Service) Pairings(ctx context.Context) ([]PairingView, error) {
	views := []PairingView{}
	m, err := s.now(ctx)
	if err != nil {
		return views, err
	}
	var rows []store.Pairing
	if err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		rows, err = tx.Pairings(ctx)
		return err
	}); err != nil {
		return views, err
	}
	for _, p := range rows {
		view := PairingView{ID: p.ID, Name: p.Name, Role: Role(p.Role), PersonID: p.Person, Person: m.personName(p.Person), Paired: m.moment(p.PairedAt),
			Seen: m.moment(p.SeenAt), This: p.ID == CallerOf(ctx).Pairing}
		if p.WithdrawnAt != nil {
			at := m.moment(*p.WithdrawnAt)
			view.Withdrawn = &at
		}
		views = append(views, view)
	}
	return views, nil
}

// PairingChanged is another name or role of a device, or that it is withdrawn for good.
type PairingChanged struct {
	ID       uuid.UUID `json:"id"`
	Name     string    `json:"name,omitempty" maxLength:"60" doc:"absent: as it is"`
	Role     Role      `json:"role,omitempty" enum:"look,bench,shop" doc:"absent: as it is"`
	Withdraw bool      `json:"withdraw,omitempty" doc:"it is let in no more, and forgets what it has seen; what it has not sent yet stays on it"`
}

// ChangePairing changes what a device is called and may do, or lets it in no more.
func (s *Service) ChangePairing(ctx context.Context, in PairingChanged) ([]PairingView, error) {
	if in.Role != "" && !slices.Contains(roles, in.Role) {
		return nil, invalid("role", "choose look, bench or shop", in.Role)
	}
	err := s.store.Write(ctx, func(tx *store.Tx) error {
		rows, err := tx.Pairings(ctx)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(rows, func(p store.Pairing) bool { return p.ID == in.ID })
		if at < 0 {
			return missing("paired device", in.ID)
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
		}
		return tx.ChangePairing(ctx, p)
	})
	if err != nil {
		return nil, err
	}
	return s.Pairings(ctx)
}

// OnDevice is who is on the device that asks, from now on.
type OnDevice struct {
	PersonID uuid.UUID `json:"personId"`
	Pin      string    `json:"pin,omitempty" maxLength:"12" doc:"of that person, where they have one"`
}

// BeOnDevice lets somebody be on the device that asks. It fails with *Invalid on a wrong PIN, and with *Busy where too
// many were wrong. On the shop's own machine nothing is kept: what it says is believed.
func (s *Service) BeOnDevice(ctx context.Context, in OnDevice) (Caller, error) {
	caller := CallerOf(ctx)
	m, err := s.now(ctx)
	if err != nil {
		return caller, err
	}
	if err := m.worksHere(in.PersonID); err != nil || caller.Pairing == uuid.Nil {
		return caller, err
	}
	tried := "pin on " + caller.Pairing.String()
	if err := s.tries.allow(tried, pinTries); err != nil {
		return caller, err
	}
	err = s.store.Write(ctx, func(tx *store.Tx) error {
		kept, err := tx.PinOf(ctx, in.PersonID)
		if err != nil {
			return err
		}
		if kept != nil && !isPin(in.Pin, *kept) {
			s.tries.failed(tried)
			return invalid("pin", "this is not the PIN of "+m.personName(in.PersonID), nil)
		}
		p := store.Pairing{ID: caller.Pairing, Name: caller.Device, Role: string(caller.Role), Person: in.PersonID}
		return tx.ChangePairing(ctx, p)
	})
	if err == nil {
		caller.Person = in.PersonID
	}
	return caller, err
}

// PinSet is a person's PIN, or that they have none.
type PinSet struct {
	PersonID uuid.UUID `json:"personId"`
	Pin      string    `json:"pin" maxLength:"12" doc:"4 to 8 digits; empty: none is asked for"`
}

// SetPin keeps what somebody enters to be the one who is on a device.
func (s *Service) SetPin(ctx context.Context, in PinSet) error {
	m, err := s.now(ctx)
	if err != nil {
		return err
	}
	if err := m.worksHere(in.PersonID); err != nil {
		return err
	}
	var kept *string
	if in.Pin != "" {
		if len(in.Pin) < 4 || len(in.Pin) > 8 || strings.Trim(in.Pin, "0123456789") != "" {
			return invalid("pin", "a PIN has 4 to 8 digits; empty, none is asked for", nil)
		}
		salt := make([]byte, 16)
		rand.Read(salt)
		made := pinDigest(in.Pin, salt)
		kept = &made
	}
	return s.store.Write(ctx, func(tx *store.Tx) error { return tx.SetPin(ctx, in.PersonID, kept) })
}

// Pinned are the people who enter a PIN before they are on a device.
func (s *Service) Pinned(ctx context.Context) ([]uuid.UUID, error) { return s.store.Pinned(ctx) }

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

// checkMoves refuses changes that need another role than a device has that may log and move.
func (c Caller) checkMoves(in Changes) error {
	if c.Role.May(RoleShop) {
		return nil
	}
	for _, change := range in.Changes {
		if change.Kind != "pin" && change.Kind != "unpin" {
			return &Forbidden{Need: RoleShop, Role: c.Role}
		}
	}
	return nil
}

// Forbidden says that a device may not do what it asked for.
type Forbidden struct{ Need, Role Role }

func (e *Forbidden) Error() string {
	return fmt.Sprintf("This device may %s. What you asked for is for a device that may %s: change its role under Shop, Devices.", e.Role.words(), e.Need.words())
}

func (r Role) words() string {
	switch r {
	case RoleLook:
		return "look, but change nothing"
	case RoleBench:
		return "log and move work"
	}
	return "change the shop"
}
