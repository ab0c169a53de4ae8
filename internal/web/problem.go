package web

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"regexp"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v2"

	"umberfrost/internal/shop"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// Types of problem that a client tells apart beyond its status.
const (
	problemDoubtful  = "/problems/doubtful" // ask the person, then send again with confirm
	problemTaken     = "/problems/taken"    // somebody else was first
	problemNotBegun  = "/problems/not-begun"
	problemUnpaired  = "/problems/unpaired"
	problemWithdrawn = "/problems/withdrawn"
	problemRole      = "/problems/role"
	problemFull      = "/problems/full" // the database has no more disk, memory or connections
	problemSlow      = "/problems/slow" // another change is taking long
)

// retryAfter is the hint, in seconds, that goes with a database that is away.
const retryAfter = "2"

// problem turns an error of a use case into an RFC 9457 problem.
func (r registrar) problem(ctx context.Context, operation string, err error) error {
	var invalid *refuse.Invalid
	var doubtful *refuse.Doubtful
	var taken *refuse.Taken
	var forbidden *access.Forbidden
	var busy *shop.Busy
	var full *refuse.Full
	switch {
	case errors.Is(err, shop.ErrUnpaired):
		return problemOf(http.StatusUnauthorized, problemUnpaired,
			"This device is not paired with the shop. Make a code under Shop, Devices on one that is, and enter it here.")
	case errors.Is(err, shop.ErrWithdrawn):
		return problemOf(http.StatusUnauthorized, problemWithdrawn,
			"This device's pairing was withdrawn. What it has not sent yet stays on it; pair it again to send that.")
	case errors.As(err, &forbidden):
		return problemOf(http.StatusForbidden, problemRole, forbidden.Error())
	case errors.As(err, &busy):
		return huma.ErrorWithHeaders(problemOf(http.StatusTooManyRequests, "about:blank", busy.Error()),
			http.Header{"Retry-After": {fmt.Sprint(int(busy.After.Seconds()) + 1)}})
	case errors.As(err, &invalid):
		p := problemOf(http.StatusUnprocessableEntity, "about:blank", "Some of what was entered cannot be accepted.")
		for _, f := range invalid.Faults {
			p.Errors = append(p.Errors, &huma.ErrorDetail{Location: "body." + f.Path, Message: f.Message})
		}
		return p
	case errors.As(err, &doubtful):
		p := problemOf(http.StatusConflict, problemDoubtful, doubtful.Error())
		for _, d := range doubtful.Doubts {
			p.Errors = append(p.Errors, &huma.ErrorDetail{Location: "body.confirm", Message: d.Message, Value: d.Code})
		}
		return p
	case errors.As(err, &taken):
		p := problemOf(http.StatusConflict, problemTaken, taken.Error())
		for _, c := range taken.Clashes { // both versions, to choose from
			p.Errors = append(p.Errors, &huma.ErrorDetail{Location: fmt.Sprintf("body.changes[%d].edit.version", c.Change),
				Message: taken.Error(), Value: c})
		}
		return p
	case errors.Is(err, snapshot.ErrNotBegun):
		return problemOf(http.StatusConflict, problemNotBegun,
			"This shop has not begun yet: say what it is like first, or restore a backup.")
	case errors.Is(err, shop.ErrNotEmpty):
		return problemOf(http.StatusConflict, problemTaken,
			"This shop has instruments or a log already. A backup goes into an empty shop only.")
	case errors.Is(err, shop.ErrNoBackup):
		return problemOf(http.StatusUnprocessableEntity, "about:blank",
			"This file is no backup of Umberfrost that can be read. The shop is as it was.")
	case errors.Is(err, shop.ErrNewer):
		return problemOf(http.StatusUnprocessableEntity, "about:blank",
			"This backup was made by a newer Umberfrost; update this one first. The shop is as it was.")
	case errors.Is(err, refuse.ErrRefused):
		r.log.ErrorContext(ctx, "refused by the database only", "operation", operation, "error", err)
		return problemOf(http.StatusUnprocessableEntity, "about:blank", "Some of what was entered cannot be kept. Nothing was saved.")
	case errors.Is(err, refuse.ErrNotFound):
		return problemOf(http.StatusNotFound, "about:blank", err.Error())
	case errors.As(err, &full):
		r.log.ErrorContext(ctx, "the database is full", "of", full.Of, "operation", operation, "error", err)
		return later(problemFull, fullText[full.Of])
	case errors.Is(err, refuse.ErrSlow):
		r.log.WarnContext(ctx, "another change is taking long", "operation", operation, "error", err)
		return later(problemSlow, "Another change is taking long. Nothing of this one was saved; try again in a moment.")
	case errors.Is(err, refuse.ErrUnavailable), errors.Is(err, context.DeadlineExceeded), errors.Is(err, context.Canceled):
		r.log.WarnContext(ctx, "database unavailable", "operation", operation, "error", err)
		return later("about:blank", "The database does not answer. Nothing was saved; try again in a moment.")
	}
	r.log.ErrorContext(ctx, "operation failed", "operation", operation, "error", err)
	return problemOf(http.StatusInternalServerError, "about:blank", "Something went wrong in the server. Nothing was saved.")
}

// later is the problem of what may go well in a moment.
func later(kind, detail string) error {
	return huma.ErrorWithHeaders(problemOf(http.StatusServiceUnavailable, kind, detail), http.Header{"Retry-After": {retryAfter}})
}

// fullText says what is full, and what helps.
var fullText = map[string]string{
	"disk":        "The disk of the shop's database is full. Nothing was saved; make room on it, then try again.",
	"memory":      "The shop's database has no memory left. Nothing was saved; try again in a moment.",
	"connections": "All connections to the shop's database are taken. Nothing was saved; try again in a moment.",
}

// required is how the typed layer says of a whole what of it is missing.
var required = regexp.MustCompile(`^expected required property (\S+) to be present$`)

// unechoed is an error of the typed layer without what was entered: that may be long, or a secret.
func unechoed(status int, detail string, causes ...error) huma.StatusError {
	p := problemOf(status, "about:blank", detail)
	for _, cause := range causes {
		var said huma.ErrorDetailer
		switch {
		case cause == nil:
		case errors.As(cause, &said):
			d := said.ErrorDetail()
			location, message := d.Location, d.Message
			if field := required.FindStringSubmatch(message); field != nil {
				location, message = location+"."+field[1], "is needed here"
			}
			p.Errors = append(p.Errors, inWords(location, message))
		default:
			p.Errors = append(p.Errors, inWords("", cause.Error()))
		}
	}
	return p
}

// plain is what the typed layer, and Go beneath it, say of a value of another kind, and what a person is told.
var plain = []struct {
	said  *regexp.Regexp
	words string
}{
	{regexp.MustCompile(`(?i)uuid`), "must be an id, a UUID like 0198a3c4-5d6e-7f80-9a1b-2c3d4e5f6a7b"},
	{regexp.MustCompile(`parsing time|RFC 3339|date-time`), "must be a time like 2026-03-12T15:20:00Z"},
	{regexp.MustCompile(`^invalid (integer|float)`), "must be a number"},
	{regexp.MustCompile(`^invalid boolean`), "must be true or false"},
	{regexp.MustCompile(`cannot unmarshal number .* of type u?int`), "must be a whole number, not so large"},
	{regexp.MustCompile(`json: |strconv|\bGo\b|reflect`), "is of another kind than is accepted here"},
}

// goField is how Go says which field it could not fill.
var goField = regexp.MustCompile(`into Go struct field \w+\.([\w.]+) of type`)

// inWords is a fault of the typed layer in words about the field.
func inWords(location, message string) *huma.ErrorDetail {
	if field := goField.FindStringSubmatch(message); field != nil {
		location = strings.TrimSuffix(cmp.Or(location, "body"), ".") + "." + field[1]
	}
	for _, p := range plain {
		if p.said.MatchString(message) {
			return &huma.ErrorDetail{Location: location, Message: p.words}
		}
	}
	return &huma.ErrorDetail{Location: location, Message: message}
}

// noOperation answers what no operation does: by another method it may be one.
func noOperation(routes []fiber.Route) fiber.Handler {
	return func(c *fiber.Ctx) error {
		var methods []string
		for _, route := range routes {
			fits := strings.HasPrefix(route.Path, "/api/") && fiber.RoutePatternMatch(c.Path(), route.Path,
				fiber.Config{CaseSensitive: true})
			if fits && !slices.Contains(methods, route.Method) {
				methods = append(methods, route.Method)
			}
		}
		if len(methods) == 0 {
			return fiber.NewError(http.StatusNotFound, "there is no such operation: "+c.Path())
		}
		c.Set(fiber.HeaderAllow, strings.Join(methods, ", "))
		return fiber.NewError(http.StatusMethodNotAllowed, fmt.Sprintf("%s is asked for with %s.", c.Path(), strings.Join(methods, " or ")))
	}
}

// inQuery is the problem of an operation that has no body.
func inQuery(err error) error {
	var p *huma.ErrorModel
	if errors.As(err, &p) {
		for _, d := range p.Errors {
			if field, is := strings.CutPrefix(d.Location, "body."); is {
				d.Location = "query." + field
			}
		}
	}
	return err
}

func problemOf(status int, kind, detail string) *huma.ErrorModel {
	return &huma.ErrorModel{Type: kind, Status: status, Title: http.StatusText(status), Detail: detail}
}

// handleError answers what never reached an operation: no such path, a body
// over the limit, a panic.
func handleError(log *slog.Logger) fiber.ErrorHandler {
	return func(c *fiber.Ctx, err error) error {
		status, detail := http.StatusInternalServerError, "Something went wrong in the server. Nothing was saved."
		var known *fiber.Error
		switch {
		case errors.As(err, &known) && known.Code == http.StatusRequestEntityTooLarge:
			status, detail = known.Code, tooLarge(c.Path())
		case errors.As(err, &known):
			status, detail = known.Code, known.Message
		default:
			log.ErrorContext(c.UserContext(), "request failed", "path", c.Path(), "error", err)
		}
		if status == http.StatusRequestEntityTooLarge || status == http.StatusRequestHeaderFieldsTooLarge {
			hearOut(c.Context().Conn())
		}
		if c.GetRespHeader(requestID) == "" { // it was refused before anything looked at it
			setHeaders(c)
			log.Info("request", "method", c.Method(), "path", c.Path(), "status", status, "from", c.Context().RemoteIP().String())
		}
		c.Status(status)
		return c.JSON(problemOf(status, "about:blank", detail), "application/problem+json")
	}
}

// tooLarge says what the largest body of an operation is.
func tooLarge(path string) string {
	if most, is := fileLimit(path); is {
		return fmt.Sprintf("The file is too large for a browser: at most %d MB are accepted; the command takes any size.", most>>20)
	}
	return fmt.Sprintf("The request is too large; at most %d bytes are accepted.", bodyLimit)
}
