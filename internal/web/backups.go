package web

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"os"

	"github.com/gofiber/fiber/v2"

	"umberfrost/internal/shop"
)

// backupFile is where a backup of this moment goes out, and where one comes in.
const backupFile = "/api/backup-file"

// backupFiles gives out backups and takes one in. They are files of the database, so they stand beside the typed
// operations.
func backupFiles(app *fiber.App, service *shop.Service, log *slog.Logger, made inTurn) {
	r := registrar{log: log}
	app.Get(backupFile, needs(whole), made.one(func(c *fiber.Ctx) error {
		name := "umberfrost-" + service.Now().UTC().Format("2006-01-02-150405") + ".backup"
		return r.sendMade(c, "make-backup", name, fiber.MIMEOctetStream, func(path string) error {
			_, err := service.Backup(c.UserContext(), path)
			return err
		})
	}))
	app.Get("/api/backups/:name/file", needs(whole), func(c *fiber.Ctx) error {
		path, err := service.BackupPath(c.Params("name"))
		if err != nil {
			return r.sendError(c, "get-backup", err)
		}
		return sendStored(c, path, fiber.MIMEOctetStream)
	})
	app.Post(backupFile, needs(whole), made.one(func(c *fiber.Ctx) error {
		if err := restore(c.UserContext(), service, c.Body()); err != nil {
			return r.sendError(c, "restore-backup", err)
		}
		view, err := service.Backups(c.UserContext())
		if err != nil {
			return r.sendError(c, "restore-backup", err)
		}
		return c.Status(http.StatusCreated).JSON(view)
	}))
}

func restore(ctx context.Context, service *shop.Service, data []byte) error {
	file, err := os.CreateTemp("", "umberfrost-restore-*.backup")
	if err != nil {
		return err
	}
	defer os.Remove(file.Name())
	_, err = file.Write(data)
	if err := errors.Join(err, file.Close()); err != nil {
		return err
	}
	return service.Restore(ctx, file.Name())
}
