package web

import (
	"bytes"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"os"
	"path/filepath"

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
func scheduleFiles(app *fiber.App, service *shop.Service, log *slog.Logger, made inTurn) {
	r := registrar{log: log}
	app.Get(scheduleFile, needs(look), made.one(func(c *fiber.Ctx) error {
		return r.sendMade(c, "export-schedule-file", "umberfrost-shop.json", "application/json", func(path string) error {
			file, err := os.Create(path)
			if err != nil {
				return err
			}
			return errors.Join(service.ExportTo(c.UserContext(), file), file.Close())
		})
	}))
	app.Get("/api/instruments/:id/schedule-file", needs(look), made.one(func(c *fiber.Ctx) error {
		id, err := uuid.Parse(c.Params("id"))
		if err != nil {
			return fiber.NewError(http.StatusUnprocessableEntity, "the id of an instrument is a UUID")
		}
		return r.sendFile(c, service, id)
	}))
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

// inTurn lets one request at a time make a file, which costs: the others wait for it.
type inTurn chan struct{}

func (t inTurn) one(do fiber.Handler) fiber.Handler {
	return func(c *fiber.Ctx) error {
		select {
		case t <- struct{}{}:
			defer func() { <-t }()
			return do(c)
		case <-c.UserContext().Done():
			return fiber.NewError(http.StatusServiceUnavailable, "Other files are being made. Try again in a moment.")
		}
	}
}

// sendMade makes a file and streams it; it is nowhere kept.
func (r registrar) sendMade(c *fiber.Ctx, operation, name, kind string, make func(path string) error) error {
	folder, err := os.MkdirTemp("", "umberfrost-file-")
	if err != nil {
		return r.sendError(c, operation, err)
	}
	defer os.RemoveAll(folder) // what is open is sent all the same
	path := filepath.Join(folder, name)
	if err := make(path); err != nil {
		return r.sendError(c, operation, err)
	}
	return sendStored(c, path, kind)
}

// sendStored streams a file, which may be gone from its folder by the time it is sent.
func sendStored(c *fiber.Ctx, path, kind string) error {
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	info, err := file.Stat()
	if err != nil {
		return errors.Join(err, file.Close())
	}
	c.Set(fiber.HeaderContentType, kind)
	c.Set(fiber.HeaderContentDisposition, fmt.Sprintf("attachment; filename=%q", filepath.Base(path)))
	return c.SendStream(file, int(info.Size())) // it closes the file
}

func (r registrar) sendFile(c *fiber.Ctx, service *shop.Service, id uuid.UUID) error {
	file, err := service.Export(c.UserContext(), &id)
	if err != nil {
		return r.sendError(c, "export-schedule-file", err)
	}
	var out bytes.Buffer
	if err := formats.Write(&out, file); err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "application/json")
	c.Set(fiber.HeaderContentDisposition, `attachment; filename="umberfrost-`+id.String()+`.json"`)
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
