package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v2"
	"github.com/google/uuid"

	"umberfrost/internal/shop"
	"umberfrost/internal/shop/access"
)

// DoorView is what a device is to the shop.
type DoorView struct {
	Paired    bool        `json:"paired"`
	Withdrawn bool        `json:"withdrawn" doc:"it was paired once, and is let in no more"`
	Here      bool        `json:"here" doc:"it is the shop's own machine, which need not be paired"`
	Role      access.Role `json:"role" enum:"look,bench,shop," doc:"what it may do"`
	Device    string      `json:"device" doc:"what it is called"`
	PersonID  string      `json:"personId" doc:"who is on it; empty on the shop's own machine, which says so itself"`
	Authority bool        `json:"authority" doc:"the shop has an authority of its own, whose certificate is at /authority.crt"`
	Addresses []string    `json:"addresses" doc:"at which other devices reach the shop; told to who may pair them"`
	Pins      []uuid.UUID `json:"pins" doc:"who enters a PIN before they are on a device"`
	Token     string      `json:"token,omitempty" doc:"once, to a device that has asked for one: what it sends as Authorization: Bearer"`
}

func doorOf(ctx context.Context, service *shop.Service, caller access.Caller, options Options) (view DoorView, err error) {
	view = DoorView{Withdrawn: caller.Withdrawn, Paired: caller.Device != "", Here: caller.Device == "" && caller.Role != "",
		Role: caller.Role, Device: caller.Device,
		Authority: options.Authority != nil, Addresses: []string{}, Pins: []uuid.UUID{}}
	if view.Paired {
		view.PersonID = caller.Person.String()
	}
	if caller.Role.May(access.RoleShop) && options.Addresses != nil {
		view.Addresses = append(view.Addresses, options.Addresses(ctx)...)
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
	huma.Register(r.api, openOperation("get-door", http.MethodGet, "/api/door", "What this device is to the shop, and what it may do",
		http.StatusOK),
		func(ctx context.Context, _ *struct{}) (*body[DoorView], error) {
			view, err := doorOf(ctx, service, access.CallerOf(ctx), options)
			if err != nil {
				return nil, r.problem(ctx, "get-door", err)
			}
			return &body[DoorView]{view}, nil
		})
	huma.Register(r.api, openOperation("pair-device", http.MethodPost, "/api/pair", "Let this device in by its one-time code",
		http.StatusCreated),
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
	post(r, "change-pairing", whole, "/api/pairings/change", "Call a device something else, let it do other things, or let it in no more",
		http.StatusOK,
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
			return doorOf(ctx, service, access.CallerOf(ctx), options)
		})
}

// openOperation is one that nobody need be paired for.
func openOperation(id, method, path, summary string, status int) huma.Operation {
	o := operation(id, "", method, path, summary, status)
	o.Extensions = nil
	return o
}

// authorityFile is where a device takes the certificate of the shop's own authority.
const authorityFile = "/authority.crt"

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
