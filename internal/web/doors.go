package web

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"net/url"
	"strings"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v2"

	"umberfrost/internal/shop"
)

// doors decide who may come in. A shop is served to the pages that it has given out
// itself, to tools on the same machine and to paired devices, to nobody else: a page of another site
// must not read it by giving a name of its own to this address, and must not write into
// it with whatever a browser sends along.
type doors struct {
	named   func(host string) bool // whether it is asked for by a name, beside those of loopback; nil: by no other
	service *shop.Service
	log     *slog.Logger
}

var errForeign = fiber.NewError(http.StatusForbidden,
	"This can only be asked by the shop's own pages, by a tool on the same machine, or by a paired device.")

func (d doors) guard(c *fiber.Ctx) error {
	host := string(c.Context().Host())
	if !d.known(host) {
		return fiber.NewError(http.StatusMisdirectedRequest,
			fmt.Sprintf("This server does not answer to the name %q; ask for it as localhost, 127.0.0.1, or by a name of its certificate.",
				host))
	}
	reads := c.Method() == fiber.MethodGet || c.Method() == fiber.MethodHead || c.Method() == fiber.MethodOptions
	if reads && !isFile(c.Path()) {
		return c.Next()
	}
	if !sameOrigin(c, host) { // what reads a file costs: another site's page must not ask for it either
		return errForeign
	}
	if reads {
		return c.Next()
	}
	if c.Method() != fiber.MethodPost {
		return c.Next() // to be told that there is no such operation
	}
	wanted := fiber.MIMEApplicationJSON
	if c.Path() == backupFile {
		wanted = fiber.MIMEOctetStream
	}
	if kind, _, err := mime.ParseMediaType(c.Get(fiber.HeaderContentType)); err != nil || kind != wanted {
		return fiber.NewError(http.StatusUnsupportedMediaType, "A body is sent as "+wanted+".")
	}
	if wanted == fiber.MIMEOctetStream {
		return c.Next()
	}
	if faults := invalidText(c.Body()); len(faults) > 0 {
		p := problemOf(http.StatusUnprocessableEntity, "about:blank", "Some of what was entered cannot be accepted.")
		p.Errors = faults
		return sendProblem(c, p)
	}
	return c.Next()
}

// known reports whether the server is asked for by a name of its own.
func (d doors) known(host string) bool {
	name := hostName(host)
	return Loopback(name) || (d.named != nil && d.named(name))
}

// hostName is the name of a host without its port.
func hostName(host string) string {
	if only, _, err := net.SplitHostPort(host); err == nil {
		host = only
	}
	return strings.ToLower(strings.Trim(host, "[]"))
}

// Loopback reports whether a name is one of this machine for itself.
func Loopback(name string) bool {
	ip := net.ParseIP(name)
	return name == "localhost" || (ip != nil && ip.IsLoopback())
}

// sameOrigin reports whether a write comes from a page of this server. Browsers say where
// a request comes from; what says nothing is no browser, and is let in from this machine, or with the token of a device.
func sameOrigin(c *fiber.Ctx, host string) bool {
	site, origin := c.Get("Sec-Fetch-Site"), c.Get(fiber.HeaderOrigin)
	if site == "" && origin == "" {
		return here(c) || bearer(c) != ""
	}
	if site != "" && site != "same-origin" && site != "none" {
		return false
	}
	if origin == "" {
		return true
	}
	from, err := url.Parse(origin)
	return err == nil && from.Host != "" && strings.EqualFold(from.Host, host)
}

// invalidText names the texts of a body that no database keeps: those that hold the
// character 0, and bytes that are not UTF-8. What is not JSON at all is left to the
// operation to say.
func invalidText(body []byte) []*huma.ErrorDetail {
	if !utf8.Valid(body) {
		return []*huma.ErrorDetail{{Location: "body", Message: "write the text in UTF-8"}}
	}
	if !bytes.Contains(body, []byte(`\u0000`)) && bytes.IndexByte(body, 0) < 0 {
		return nil
	}
	var faults []*huma.ErrorDetail
	_ = walkTexts(json.NewDecoder(bytes.NewReader(body)), "body", func(path, text string) {
		if strings.ContainsRune(text, 0) {
			faults = append(faults, &huma.ErrorDetail{Location: strings.ReplaceAll(path, "\x00", ""),
				Message: "leave out the character 0 (\\u0000); any other text is accepted"})
		}
	})
	return faults
}

// walkTexts calls look for every text of a JSON value, keys too, with its path.
func walkTexts(d *json.Decoder, path string, look func(path, text string)) error {
	token, err := d.Token()
	if err != nil {
		return err
	}
	switch t := token.(type) {
	case string:
		look(path, t)
	case json.Delim:
		for i := 0; d.More(); i++ {
			at := fmt.Sprintf("%s[%d]", path, i)
			if t == '{' {
				key, err := d.Token()
				if err != nil {
					return err
				}
				name, _ := key.(string)
				at = path + "." + name
				look(at, name)
			}
			if err := walkTexts(d, at, look); err != nil {
				return err
			}
		}
		if _, err := d.Token(); err != nil && !errors.Is(err, io.EOF) {
			return err
		}
	}
	return nil
}
