package web

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"os"
	"path/filepath"

	"github.com/gofiber/fiber/v2"

	"umberfrost/internal/shop"
)

// backupFile is where a backup of this moment goes out, and where one comes in.
const backupFile = "/api/backup-file"

// backupFiles gives out backups and takes one in. They are files of the database, so they stand beside the typed
// operations.
func backupFiles(app *fiber.App, service *shop.Service, log *slog.Logger) {
	r := registrar{log: log}
	app.Get(backupFile, needs(whole), func(c *fiber.Ctx) error {
		folder, err := os.MkdirTemp("", "umberfrost-backup-")
		if err != nil {
			return err
		}
		defer os.RemoveAll(folder)
		name := "umberfrost-" + service.Now().UTC().Format("2006-01-02-150405") + ".backup"
		made, err := service.Backup(c.UserContext(), filepath.Join(folder, name))
		if err != nil {
			return r.sendError(c, "make-backup", err)
		}
		return sendBackup(c, made.Path)
	})
	app.Get("/api/backups/:name/file", needs(whole), func(c *fiber.Ctx) error {
		path, err := service.BackupPath(c.Params("name"))
		if err != nil {
			return r.sendError(c, "get-backup", err)
		}
		return sendBackup(c, path)
	})
	app.Post(backupFile, needs(whole), func(c *fiber.Ctx) error {
		if err := restore(c.UserContext(), service, c.Body()); err != nil {
			return r.sendError(c, "restore-backup", err)
		}
		view, err := service.Backups(c.UserContext())
		if err != nil {
			return r.sendError(c, "restore-backup", err)
		}
		return c.Status(http.StatusCreated).JSON(view)
	})
}

// sendBackup streams a file, which may be gone from its folder by the time it is sent.
func sendBackup(c *fiber.Ctx, path string) error {
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	info, err := file.Stat()
	if err != nil {
		return errors.Join(err, file.Close())
	}
	c.Set(fiber.HeaderContentType, fiber.MIMEOctetStream)
	c.Set(fiber.HeaderContentDisposition, fmt.Sprintf("attachment; filename=%q", filepath.Base(path)))
	return c.SendStream(file, int(info.Size())) // it closes the file
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
