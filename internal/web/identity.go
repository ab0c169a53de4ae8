package web

import (
	"context"
	"errors"
	"net"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humafiber"
	"github.com/gofiber/fiber/v2"

	"umberfrost/internal/shop"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
)

// deviceCookie is what a paired browser shows. Its name lets browsers take it over TLS only, and from this host only.
const deviceCookie = "__Host-umberfrost-device"

// cookieFor is as long as browsers keep a cookie; a page that is opened renews it.
const cookieFor = 400 * 24 * time.Hour

func cookieOf(token string) http.Cookie {
	return http.Cookie{Name: deviceCookie, Value: token, Path: "/", MaxAge: int(cookieFor.Seconds()), Secure: true, HttpOnly: true,
		SameSite: http.SameSiteStrictMode}
}

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

// addressOf is from where somebody asks. A proxy on this machine says it: the last address is the one that it saw. An
// address of IPv6 stands for its network, in which a device has as many as it likes.
func addressOf(c *fiber.Ctx) string {
	from := c.Context().RemoteIP()
	if hops := strings.Split(c.Get(fiber.HeaderXForwardedFor), ","); from.IsLoopback() {
		if said := net.ParseIP(strings.TrimSpace(hops[len(hops)-1])); said != nil {
			from = said
		}
	}
	if from.To4() == nil {
		return from.Mask(net.CIDRMask(64, 128)).String()
	}
	return from.String()
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
	if err != nil && c.Path() == rackPath {
		if known, is := d.service.KnownLately(shown(c)); is && errors.Is(err, refuse.ErrUnavailable) {
			caller, err = known, nil // the rack is shown from memory
		}
	}
	outside := errors.Is(err, shop.ErrUnpaired) || errors.Is(err, shop.ErrWithdrawn)
	if err != nil && !(outside && open[c.Path()]) {
		return registrar{log: d.log}.sendError(c, "identify", err)
	}
	caller.Address = addressOf(c)
	c.SetUserContext(access.As(c.UserContext(), caller))
	return c.Next()
}

// shown is what a device shows to be let in; empty: nothing.
func shown(c *fiber.Ctx) string {
	if token := bearer(c); token != "" {
		return strings.Clone(token)
	}
	return strings.Clone(c.Cookies(deviceCookie))
}

func (d doors) caller(c *fiber.Ctx) (access.Caller, error) {
	ctx, token := c.UserContext(), shown(c)
	if c.Path() == rackPath {
		soon, stop := context.WithTimeout(ctx, shop.RememberAfter)
		defer stop()
		ctx = soon
	}
	switch {
	case token != "" && bearer(c) != "":
		return d.service.Known(ctx, token)
	case token != "":
		caller, err := d.service.Known(ctx, token)
		if again := cookieOf(token); err == nil && c.Path() == "/api/door" {
			c.Set(fiber.HeaderSetCookie, again.String())
		}
		return caller, err
	case here(c):
		return access.Caller{Role: access.RoleShop}, nil
	}
	return access.Caller{}, shop.ErrUnpaired
}

// needs lets in who has at least a role.
func needs(least access.Role) fiber.Handler {
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
		least, said := ctx.Operation().Extensions[roleNote].(access.Role)
		if err := allowed(ctx.Context(), least); said && err != nil {
			_ = registrar{}.sendError(humafiber.Unwrap(ctx), "role", err)
			return
		}
		next(ctx)
	}
}

func allowed(ctx context.Context, least access.Role) error {
	if caller := access.CallerOf(ctx); !caller.Role.May(least) {
		return &access.Forbidden{Need: least, Role: caller.Role}
	}
	return nil
}
