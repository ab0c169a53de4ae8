package web

import (
	"context"
	"io/fs"
	"regexp"
	"strings"

	"github.com/gofiber/fiber/v2"
)

// pageHeader is under which a page says which version of itself it is: the script that it began from.
const pageHeader = "Page"

type olderKey struct{}

var pageScript = regexp.MustCompile(`<script type="module"[^>]* src="([^"]+)"`)

// scriptOf is the script that the pages of a built interface begin from.
func scriptOf(files fs.FS) string {
	index, err := fs.ReadFile(files, "index.html")
	if found := pageScript.FindSubmatch(index); err == nil && found != nil {
		return string(found[1])
	}
	return ""
}

// tellOlder notes of a request that it comes from a page of another version than is given out now. A browser that says
// nothing is one; what is no browser could know the API as it is.
func tellOlder(script string) fiber.Handler {
	return func(c *fiber.Ctx) error {
		said := strings.Clone(c.Get(pageHeader))
		browser := c.Get("Sec-Fetch-Site") != "" || c.Get(fiber.HeaderOrigin) != ""
		if older := said != script && (said != "" || browser); older {
			c.SetUserContext(context.WithValue(c.UserContext(), olderKey{}, true))
		}
		return c.Next()
	}
}

// fromOlder reports whether a request comes from a page of another version.
func fromOlder(ctx context.Context) bool { return ctx.Value(olderKey{}) != nil }
