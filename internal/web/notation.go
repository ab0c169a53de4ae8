package web

import (
	"strings"

	"github.com/gofiber/fiber/v2"

	"umberfrost/internal/craft/unit"
)

// notationHeader is how a device that differs from its shop wants figures written: the
// words below, those that are meant; "plain" is none of them.
const notationHeader = "Notation"

// localize writes the figures in an answer as its reader is used to. Schedule files keep
// their marks: they are read by machines, and by this program again.
func localize(shops func() unit.Notation) fiber.Handler {
	return func(c *fiber.Ctx) error {
		err := c.Next()
		if err != nil || c.Response().IsBodyStream() || strings.HasSuffix(c.Path(), "/schedule-file") {
			return err
		}
		if body := c.Response().Body(); unit.Marked(body) {
			c.Response().SetBodyRaw(notationOf(c.Get(notationHeader), shops).Localize(body))
		}
		return nil
	}
}

func notationOf(header string, shops func() unit.Notation) unit.Notation {
	if header == "" {
		return shops()
	}
	var n unit.Notation
	for _, word := range strings.FieldsFunc(header, func(r rune) bool { return r == ' ' || r == ',' }) {
		switch word {
		case "inch":
			n.Inch = true
		case "am-pm":
			n.AmPm = true
		case "month-first":
			n.MonthFirst = true
		}
	}
	return n
}
