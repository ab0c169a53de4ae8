// Package access is who asks for something, and what they may: a paired device with its role, or the shop's own
// machine.
package access

import (
	"context"
	"fmt"
	"slices"

	"github.com/google/uuid"
)

// Role is what a device may do: each may do what those before it may.
type Role string

// Roles, the least first: to look at everything and ask what would be; to log and move what is planned; to change the shop.
const (
	RoleLook  Role = "look"
	RoleBench Role = "bench"
	RoleShop  Role = "shop"
)

var Roles = []Role{RoleLook, RoleBench, RoleShop}

// May reports whether a role is enough for what needs another.
func (r Role) May(need Role) bool {
	return slices.Contains(Roles, r) && slices.Index(Roles, r) >= slices.Index(Roles, need)
}

// Caller is who asks for something: a paired device, or the shop's own machine, which may do everything.
type Caller struct {
	Pairing uuid.UUID // none: the machine itself
	Device  string    // its name
	Role    Role
	Person  uuid.UUID // who is on the device now
	Address string    // from where it asks: of one network a whole, where devices have many addresses

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

// Who is the person that decides something: on a paired device the one who is on it, whatever a request claims.
func Who(ctx context.Context, claimed uuid.UUID) uuid.UUID {
	if c := CallerOf(ctx); c.Pairing != uuid.Nil {
		return c.Person
	}
	return claimed
}

// Forbidden says that a device may not do what it asked for.
type Forbidden struct{ Need, Role Role }

func (e *Forbidden) Error() string {
	return fmt.Sprintf("This device may %s. What you asked for is for a device that may %s: change its role under Shop, Devices.",
		e.Role.words(), e.Need.words())
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
