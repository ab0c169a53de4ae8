package web

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humafiber"
	"github.com/gofiber/fiber/v2"
	"github.com/google/uuid"

	"umberfrost/internal/shop"
)

// deviceCookie is what a paired browser shows. Its name lets browsers take it over TLS only, and from this host only.
const deviceCookie = "__Host-umberfrost-device"

// cookieFor is as long as browsers keep a cookie; a page that is opened renews it.
const cookieFor = 400 * 24 * time.Hour

func cookieOf(token string) http.Cookie {
	return http.Cookie{Name: deviceCookie, Value: token, Path: "/", MaxAge: int(cookieFor.Seconds()), Secure: true, HttpOnly: true,
		SameSite: http.SameSiteStrictMode}
}

// authorityFile is where a device takes the certificate of the shop's own authority.
const authorityFile = "/authority.crt"

// forwarding are the headers by which a proxy says that it asks for somebody else: then a request from this machine is
// as foreign as one from the network.
var forwarding = []string{"Forwarded", "X-Forwarded-For", "X-Forwarded-Host", "X-Forwarded-Proto", "X-Real-Ip", "Via"}

// here reports whether a request comes from this machine, and for nobody else.
func here(c *fiber.Ctx) bool {
	for _, header := range forwarding {
		if c.Get(header) != "" {
			return false
		}
	}
	return c.Context().RemoteIP().IsLoopback()
}

// bearer is the token of a device that is no browser.
func bearer(c *fiber.Ctx) string {
	kind, token, _ := strings.Cut(c.Get(fiber.HeaderAuthorization), " ")
	if !strings.EqualFold(kind, "Bearer") {
		return ""
	}
	return strings.TrimSpace(token)
}

// open are the operations that a device asks for before it is paired.
var open = map[string]bool{"/api/door": true, "/api/pair": true}

// identify finds out who asks. A device that shows what it was given when it was paired is that device, wherever it
// asks from; else this machine may do everything, and nobody else anything.
func (d doors) identify(c *fiber.Ctx) error {
	caller, err := d.caller(c)
	outside := errors.Is(err, shop.ErrUnpaired) || errors.Is(err, shop.ErrWithdrawn)
	if err != nil && !(outside && open[c.Path()]) {
		return registrar{log: d.log}.sendError(c, "identify", err)
	}
	c.SetUserContext(shop.As(c.UserContext(), caller))
	return c.Next()
}

func (d doors) caller(c *fiber.Ctx) (shop.Caller, error) {
	if token := bearer(c); token != "" {
		return d.service.Known(c.UserContext(), strings.Clone(token))
	}
	token := strings.Clone(c.Cookies(deviceCookie))
	switch {
	case token != "":
		caller, err := d.service.Known(c.UserContext(), token)
		if again := cookieOf(token); err == nil && c.Path() == "/api/door" {
			c.Set(fiber.HeaderSetCookie, again.String())
		}
		return caller, err
	case here(c):
		return shop.Caller{Role: shop.RoleShop}, nil
	}
	return shop.Caller{}, shop.ErrUnpaired
}

// needs lets in who has at least a role.
func needs(least shop.Role) fiber.Handler {
	return func(c *fiber.Ctx) error {
		if err := allowed(c.UserContext(), least); err != nil {
			return registrar{}.sendError(c, "role", err)
		}
		return c.Next()
	}
}

// needsRole does the same for typed operations, by what their document says.
func needsRole(api huma.API) func(huma.Context, func(huma.Context)) {
	return func(ctx huma.Context, next func(huma.Context)) {
		least, said := ctx.Operation().Extensions[roleNote].(shop.Role)
		if err := allowed(ctx.Context(), least); said && err != nil {
			_ = registrar{}.sendError(humafiber.Unwrap(ctx), "role", err)
			return
		}
		next(ctx)
	}
}

func allowed(ctx context.Context, least shop.Role) error {
	if caller := shop.CallerOf(ctx); !caller.Role.May(least) {
		return &shop.Forbidden{Need: least, Role: caller.Role}
	}
	return nil
}

// DoorView is what a device is to the shop.
type DoorView struct {
	Paired    bool        `json:"paired"`
	Withdrawn bool        `json:"withdrawn" doc:"it was paired once, and is let in no more"`
	Here      bool        `json:"here" doc:"it is the shop's own machine, which need not be paired"`
	Role      shop.Role   `json:"role" enum:"look,bench,shop," doc:"what it may do"`
	Device    string      `json:"device" doc:"what it is called"`
	PersonID  string      `json:"personId" doc:"who is on it; empty on the shop's own machine, which says so itself"`
	Authority bool        `json:"authority" doc:"the shop has an authority of its own, whose certificate is at /authority.crt"`
	Addresses []string    `json:"addresses" doc:"at which other devices reach the shop; told to who may pair them"`
	Pins      []uuid.UUID `json:"pins" doc:"who enters a PIN before they are on a device"`
	Token     string      `json:"token,omitempty" doc:"once, to a device that has asked for one: what it sends as Authorization: Bearer"`
}

func doorOf(ctx context.Context, service *shop.Service, caller shop.Caller, options Options) (view DoorView, err error) {
	view = DoorView{Withdrawn: caller.Withdrawn, Paired: caller.Device != "", Here: caller.Device == "" && caller.Role != "", Role: caller.Role, Device: caller.Device,
		Authority: options.Authority != nil, Addresses: []string{}, Pins: []uuid.UUID{}}
	if view.Paired {
		view.PersonID = caller.Person.String()
	}
	if caller.Role.May(shop.RoleShop) {
		view.Addresses = append(view.Addresses, options.Addresses...)
	}
	if caller.Role != "" {
		view.Pins, err = service.Pinned(ctx)
	}
	return view, err
}

type doorAnswer struct {
	Cookie http.Cookie `header:"Set-Cookie"`
	Body   DoorView
}

// registerDoor adds what a device asks for at the door.
func registerDoor(r registrar, service *shop.Service, options Options) {
	huma.Register(r.api, openOperation("get-door", http.MethodGet, "/api/door", "What this device is to the shop, and what it may do", http.StatusOK),
		func(ctx context.Context, _ *struct{}) (*body[DoorView], error) {
			view, err := doorOf(ctx, service, shop.CallerOf(ctx), options)
			if err != nil {
				return nil, r.problem(ctx, "get-door", err)
			}
			return &body[DoorView]{view}, nil
		})
	huma.Register(r.api, openOperation("pair-device", http.MethodPost, "/api/pair", "Let this device in by its one-time code", http.StatusCreated),
		func(ctx context.Context, in *body[shop.PairAsked]) (*doorAnswer, error) {
			token, caller, err := service.Pair(ctx, in.Body)
			answer := &doorAnswer{}
			if err == nil {
				answer.Body, err = doorOf(ctx, service, caller, options)
			}
			if err != nil {
				return nil, r.problem(ctx, "pair-device", err)
			}
			if in.Body.Bearer {
				answer.Body.Token = token
			} else {
				answer.Cookie = cookieOf(token)
			}
			return answer, nil
		})
	post(r, "make-pairing-code", whole, "/api/pairing-codes", "Make a code that lets one device in, within ten minutes", http.StatusCreated,
		func(ctx context.Context, in *shop.CodeAsked) (shop.CodeMade, error) {
			return service.MakeCode(ctx, *in)
		})
	get(r, "list-pairings", whole, "/api/pairings", "Devices that were let in, withdrawn ones behind",
		func(ctx context.Context, _ *struct{}) ([]shop.PairingView, error) {
			return service.Pairings(ctx)
		})
	post(r, "change-pairing", whole, "/api/pairings/change", "Call a device something else, let it do other things, or let it in no more", http.StatusOK,
		func(ctx context.Context, in *shop.PairingChanged) ([]shop.PairingView, error) {
			return service.ChangePairing(ctx, *in)
		})
	post(r, "be-on-device", look, "/api/door/person", "Be the one who is on this device from now on", http.StatusOK,
		func(ctx context.Context, in *shop.OnDevice) (DoorView, error) {
			caller, err := service.BeOnDevice(ctx, *in)
			if err != nil {
				return DoorView{}, err
			}
			return doorOf(ctx, service, caller, options)
		})
	post(r, "set-pin", whole, "/api/people/pin", "Ask for a PIN before somebody is on a device, or for none", http.StatusOK,
		func(ctx context.Context, in *shop.PinSet) (DoorView, error) {
			if err := service.SetPin(ctx, *in); err != nil {
				return DoorView{}, err
			}
			return doorOf(ctx, service, shop.CallerOf(ctx), options)
		})
}

// openOperation is one that nobody need be paired for.
func openOperation(id, method, path, summary string, status int) huma.Operation {
	o := operation(id, "", method, path, summary, status)
	o.Extensions = nil
	return o
}

func sendAuthority(certificate []byte) fiber.Handler {
	return func(c *fiber.Ctx) error {
		if certificate == nil {
			return fiber.NewError(http.StatusNotFound, "This shop has no authority of its own; umberfrost trust makes one.")
		}
		c.Set(fiber.HeaderContentType, "application/x-x509-ca-cert")
		c.Set(fiber.HeaderContentDisposition, `attachment; filename="umberfrost-authority.crt"`)
		return c.Send(certificate)
	}
}
