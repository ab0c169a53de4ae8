package web

import (
	"bytes"
	"errors"
	"log/slog"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v2"
	"github.com/google/uuid"

	"umberfrost/internal/formats"
	"umberfrost/internal/shop"
)

// scheduleFile is where the whole shop goes out and comes in.
const scheduleFile = "/api/schedule-file"

// recipeFile is where a recipe of another shop comes in.
const recipeFile = "/api/recipe-file"

// scheduleFiles gives out and takes in schedule files. They have a schema of
// their own, published with the formats, so they stand beside the typed operations.
func scheduleFiles(app *fiber.App, service *shop.Service, log *slog.Logger) {
	r := registrar{log: log}
	app.Get(scheduleFile, needs(look), func(c *fiber.Ctx) error {
		return r.sendFile(c, service, nil, "shop")
	})
	app.Get("/api/instruments/:id/schedule-file", needs(look), func(c *fiber.Ctx) error {
		id, err := uuid.Parse(c.Params("id"))
		if err != nil {
			return fiber.NewError(http.StatusUnprocessableEntity, "the id of an instrument is a UUID")
		}
		return r.sendFile(c, service, &id, id.String())
	})
	app.Get("/api/recipes/:id/file", needs(look), func(c *fiber.Ctx) error {
		id, err := uuid.Parse(c.Params("id"))
		if err != nil {
			return fiber.NewError(http.StatusUnprocessableEntity, "the id of a recipe is a UUID")
		}
		own, err := service.OwnRecipe(c.UserContext(), id)
		if err != nil {
			return r.sendError(c, "export-recipe", err)
		}
		var out bytes.Buffer
		if err := formats.WriteRecipe(&out, own); err != nil {
			return err
		}
		c.Set(fiber.HeaderContentType, "application/json")
		c.Set(fiber.HeaderContentDisposition, `attachment; filename="umberfrost-recipe-`+id.String()+`.json"`)
		return c.Send(out.Bytes())
	})
	app.Post(recipeFile, needs(whole), func(c *fiber.Ctx) error {
		own, err := formats.ReadRecipe(bytes.NewReader(c.Body()))
		if err != nil {
			return r.refuse(c, "This recipe file cannot be accepted.", err)
		}
		view, err := service.TakeRecipe(c.UserContext(), own)
		if err != nil {
			return r.sendError(c, "import-recipe", err)
		}
		return c.Status(http.StatusCreated).JSON(view)
	})
	app.Post(scheduleFile, needs(whole), func(c *fiber.Ctx) error {
		body := c.Body()
		file, err := formats.ReadWhole(c.UserContext(), bytes.NewReader(body), int64(len(body)))
		if err != nil {
			return r.refuse(c, "This schedule file cannot be accepted.", err)
		}
		done, err := service.Import(c.UserContext(), file)
		if err != nil {
			return r.sendError(c, "import-schedule-file", err)
		}
		return c.Status(http.StatusCreated).JSON(done)
	})
}

// refuse answers a file that cannot be accepted, with each place that is wrong.
func (r registrar) refuse(c *fiber.Ctx, detail string, err error) error {
	var wrong *formats.Invalid
	if !errors.As(err, &wrong) {
		return r.sendError(c, "read-file", err)
	}
	p := problemOf(http.StatusUnprocessableEntity, "about:blank", detail)
	for _, f := range wrong.Faults {
		p.Errors = append(p.Errors, &huma.ErrorDetail{Location: f.Path, Message: f.Message})
	}
	return sendProblem(c, p)
}

func (r registrar) sendFile(c *fiber.Ctx, service *shop.Service, only *uuid.UUID, name string) error {
	file, err := service.Export(c.UserContext(), only)
	if err != nil {
		return r.sendError(c, "export-schedule-file", err)
	}
	var out bytes.Buffer
	if err := formats.Write(&out, file); err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "application/json")
	c.Set(fiber.HeaderContentDisposition, `attachment; filename="umberfrost-`+name+`.json"`)
	return c.Send(out.Bytes())
}

func (r registrar) sendError(c *fiber.Ctx, operation string, err error) error {
	problem := r.problem(c.UserContext(), operation, err)
	var model *huma.ErrorModel
	if errors.As(problem, &model) {
		if model.Status == http.StatusServiceUnavailable {
			c.Set("Retry-After", retryAfter)
		}
		return sendProblem(c, model)
	}
	return problem
}

func sendProblem(c *fiber.Ctx, p *huma.ErrorModel) error {
	c.Status(p.Status)
	return c.JSON(p, "application/problem+json")
}
