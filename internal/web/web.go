// Package web serves the shop over HTTP: typed operations under /api, their
// OpenAPI document, and the built interface. Fiber stays in here.
package web

import (
	"bytes"
	"context"
	"encoding/json"
	"io/fs"
	"log/slog"
	"net/http"
	"reflect"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humafiber"
	"github.com/gofiber/fiber/v2"
	"github.com/gofiber/fiber/v2/middleware/compress"
	"github.com/gofiber/fiber/v2/middleware/filesystem"
	"github.com/google/uuid"

	"umberfrost/internal/formats"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"
)

// Version of the API, as its document says.
const Version = "0.1.0"

// bodyLimit is the largest request body that an operation takes, in bytes.
// Nothing a person types comes near it. Up to readLimit a body is read to its
// end, so that the client gets an answer instead of a broken connection.
const (
	bodyLimit = 256 << 10
	readLimit = 8 << 20
)

// Options are how a shop is served.
type Options struct {
	Log       *slog.Logger
	Metrics   *Metrics                       // nil: nobody asks for them
	Named     func(host string) bool         // whether it answers to a name, beside those of loopback; nil: to no other
	Addresses func(context.Context) []string // at which devices reach it over TLS now; nil: at none
	Commit    string                         // what the program was built from
	Folders   []Folder                       // where data is kept
	Authority []byte                         // certificate of the shop's own authority, which they take (DER); nil: there is none
}

// rackPath is where the rack is asked for, which is shown from memory where the database does not answer.
const rackPath = "/api/rack"

// New makes the application.
func New(service *shop.Service, files fs.FS, options Options) *fiber.App {
	log := options.Log
	if options.Metrics == nil {
		options.Metrics = NewMetrics()
	}
	app := middleware(service, options)
	app.Use("/api", tellOlder(scriptOf(files)))
	register(humafiber.New(app, config()), service, options, files)
	made := make(inTurn, 1)
	scheduleFiles(app, service, log, made)
	backupFiles(app, service, log, made)
	app.Get(liveEvents, needs(look), sendEvents(service, options))
	app.Get(authorityFile, sendAuthority(options.Authority))
	app.All("/api/*", noOperation(app.GetRoutes(true)))
	app.Get("/*", interfaceFiles(files))
	return app
}

// middleware is what every request passes before anything answers it.
func middleware(service *shop.Service, options Options) *fiber.App {
	app := fiber.New(fiber.Config{
		AppName: "Umberfrost", DisableStartupMessage: true, CaseSensitive: true, BodyLimit: readLimit,
		ErrorHandler: handleError(options.Log),
		ReadTimeout:  readWait, IdleTimeout: idleWait,
		ReduceMemoryUsage: true, // or a connection that a browser opens ahead counts as a request, and no stop waits it out
	})
	app.Server().HeaderReceived = requestConfig
	app.Use(observed(options.Log, options.Metrics), recovered(options.Log), headers, doors{options.Named, service, options.Log}.guard,
		within,
		compress.New(compress.Config{Next: func(c *fiber.Ctx) bool { return c.Path() == liveEvents }}))
	app.Use("/api", doors{options.Named, service, options.Log}.identify, tellTime(service.Now), localize(service.Notation))
	return app
}

// fileLimit is how large a file may be that comes in under a path, in bytes.
func fileLimit(path string) (most int, is bool) {
	switch path {
	case scheduleFile, backupFile:
		return formats.MaxBytes, true
	case recipeFile:
		return formats.MaxRecipeBytes, true
	}
	return 0, false
}

// isFile reports whether something of any size goes out or comes in under a path.
func isFile(path string) bool {
	return strings.HasSuffix(path, "-file") || strings.HasSuffix(path, "/file")
}

// OpenAPI is the API's document as JSON, as it is committed.
func OpenAPI() ([]byte, error) {
	app := fiber.New()
	api := humafiber.New(app, config())
	register(api, nil, Options{Log: slog.Default()}, nil)
	document, err := api.OpenAPI().MarshalJSON()
	if err != nil {
		return nil, err
	}
	var indented bytes.Buffer
	err = json.Indent(&indented, document, "", "  ")
	return indented.Bytes(), err
}

// setHuma sets what the typed layer keeps for all servers of a process, once.
var setHuma = sync.OnceFunc(func() {
	huma.DefaultArrayNullable = false // lists are empty, never null
	huma.NewError = unechoed
})

func config() huma.Config {
	setHuma()
	c := huma.DefaultConfig("Umberfrost", Version)
	c.Info.Description = "Finish schedules for guitar bodies and necks: planned, dated and logged."
	c.OpenAPIPath, c.DocsPath, c.SchemasPath = "/openapi", "", ""
	c.CreateHooks = nil
	c.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[uuid.UUID](), reflect.TypeFor[idText]())
	return c
}

// idText is how an id is written: as a UUID, so that one that is not is refused by the
// name of its field.
type idText string

// Schema describes it.
func (idText) Schema(huma.Registry) *huma.Schema {
	return &huma.Schema{Type: huma.TypeString, Format: "uuid"}
}

// headers keep the page to itself.
func headers(c *fiber.Ctx) error {
	setHeaders(c)
	return c.Next()
}

func setHeaders(c *fiber.Ctx) {
	c.Set("X-Content-Type-Options", "nosniff")
	c.Set("Referrer-Policy", "no-referrer")
	c.Set("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'")
	if strings.HasPrefix(c.Path(), "/api/") {
		c.Set("Cache-Control", "no-store")
	}
}

// clockHeader is the present by the shop's clock, on every answer: timers run by it on any device.
const clockHeader = "Shop-Now"

func tellTime(now func() time.Time) fiber.Handler {
	return func(c *fiber.Ctx) error {
		c.Set(clockHeader, now().UTC().Format(time.RFC3339Nano))
		return c.Next()
	}
}

// interfaceFiles serves the built interface; every path that is not a file is
// the page, which knows its own routes.
func interfaceFiles(files fs.FS) fiber.Handler {
	page := filesystem.New(filesystem.Config{Root: http.FS(files), NotFoundFile: "index.html"})
	return func(c *fiber.Ctx) error {
		if !strings.HasPrefix(c.Path(), "/assets/") {
			c.Set("Cache-Control", "no-cache")
			return page(c)
		}
		// The names of assets change with their contents; one that is gone is gone.
		if err := filesystem.SendFile(c, http.FS(files), c.Path()); err != nil {
			return fiber.NewError(http.StatusNotFound, "there is no such file: "+c.Path())
		}
		c.Set("Cache-Control", "public, max-age=31536000, immutable")
		return nil
	}
}

// register adds every operation. The service may be nil when only the document
// is wanted.
func register(api huma.API, service *shop.Service, options Options, files fs.FS) {
	api.UseMiddleware(needsRole(api))
	r := registrar{api, options.Log, time.Now}
	if service != nil {
		r.now = service.Now
	}
	registerDoor(r, service, options)
	get(r, "get-health", look, "/api/health", "Whether the server and its database answer",
		func(ctx context.Context, _ *struct{}) (Health, error) {
			if err := service.Ready(ctx); err != nil {
				return Health{}, err
			}
			return Health{Status: "ok", Now: service.Now().UTC(), Space: spaces(options.Folders)}, nil
		})
	get(r, "get-about", look, "/api/about", "Which Umberfrost this is, and the licences of all that it is made of",
		func(context.Context, *struct{}) (About, error) { return aboutOf(files, options.Commit) })
	get(r, "get-beginning", look, "/api/beginning", "Whether the shop has begun, and what it may begin from",
		func(ctx context.Context, _ *struct{}) (shop.BeginningView, error) {
			return service.Beginning(ctx)
		})
	post(r, "begin-shop", whole, "/api/beginning", "Say what a shop is like before its first instrument", http.StatusCreated,
		func(ctx context.Context, in *shop.Beginning) (shop.BeginningView, error) {
			return service.Begin(ctx, *in)
		})
	get(r, "get-reference", look, "/api/reference", "What a person may choose from",
		func(ctx context.Context, _ *struct{}) (views.Reference, error) {
			return service.Reference(ctx)
		})
	get(r, "get-rack", look, rackPath, "What hangs on the rail and what hands do next",
		func(ctx context.Context, _ *struct{}) (views.Rack, error) {
			return service.Rack(ctx)
		})
	get(r, "get-bench", look, "/api/bench", "What a device keeps to go on with when it cannot reach the shop: the rack and its sheets",
		func(ctx context.Context, _ *struct{}) (shop.Bench, error) {
			return service.Bench(ctx)
		})
	get(r, "list-instruments", look, "/api/instruments", "All jobs, running ones first",
		func(ctx context.Context, _ *struct{}) ([]views.InstrumentLine, error) {
			return service.Instruments(ctx)
		})
	get(r, "get-having", look, "/api/having", "What fits into the time that somebody has, by the planner's own order",
		func(ctx context.Context, in *havingAsked) (views.Having, error) {
			return service.Have(ctx, in.For, in.Person)
		})
	get(r, "list-archive", look, "/api/archive", "Instruments that are put aside, the last one first",
		func(ctx context.Context, _ *struct{}) ([]views.ArchivedLine, error) {
			return service.Archive(ctx)
		})
	post(r, "delete-instrument", whole, "/api/instruments/delete", "Delete an instrument of which nothing is logged, by its name",
		http.StatusOK,
		func(ctx context.Context, in *views.Deletion) (views.Deleted, error) {
			return service.Delete(ctx, *in)
		})
	get(r, "list-looks", look, "/api/looks", "How the instruments look by now",
		func(ctx context.Context, _ *struct{}) ([]views.InstrumentLook, error) {
			return service.Looks(ctx)
		})
	get(r, "get-instrument", look, "/api/instruments/{id}", "One job with its threads, steps and log",
		func(ctx context.Context, in *byID) (views.InstrumentView, error) {
			return service.Instrument(ctx, in.ID)
		})
	get(r, "get-sheet", look, "/api/steps/{id}/coats/{coat}", "All a finisher needs for one event",
		func(ctx context.Context, in *byEvent) (views.Sheet, error) {
			return service.Sheet(ctx, in.ID, in.Coat)
		})
	post(r, "forecast-instrument", look, "/api/forecasts", "Compose and date a new instrument without saving it", http.StatusOK,
		func(ctx context.Context, in *changes.NewInstrument) (views.Forecast, error) {
			return service.Forecast(ctx, *in)
		})
	post(r, "compare-schools", look, "/api/schools", "Plan every way of one choice beside the others without saving any", http.StatusOK,
		func(ctx context.Context, in *views.SchoolsAsked) (views.Ways, error) {
			return service.Schools(ctx, *in)
		})
	post(r, "keep-instrument", whole, "/api/instruments", "Keep a new instrument; the same once more changes nothing", http.StatusCreated,
		once(func(ctx context.Context, in *changes.NewInstrument) (views.InstrumentView, error) {
			return service.Keep(ctx, *in)
		}))
	post(r, "add-readings", bench, "/api/readings", "Keep what devices read, or a forecast; dates that rest on the air move",
		http.StatusCreated,
		once(func(ctx context.Context, in *changes.NewReadings) (changes.ReadingsKept, error) {
			return service.AddReadings(ctx, *in)
		}))
	post(r, "type-reading", bench, "/api/readings/typed", "Keep a reading as a person typed it", http.StatusCreated,
		once(func(ctx context.Context, in *changes.TypedReading) (changes.ReadingsKept, error) {
			return service.TypeReading(ctx, *in)
		}))
	post(r, "strike-reading", bench, "/api/readings/strike", "Let a reading count no more; it stays, struck", http.StatusOK,
		func(ctx context.Context, in *changes.ReadingStruck) (changes.ReadingsKept, error) {
			return service.StrikeReading(ctx, *in)
		})
	get(r, "get-weeks", look, "/api/weeks", "The threads of running instruments through some weeks, under what the days hold",
		func(ctx context.Context, in *weeksAsked) (views.Weeks, error) {
			return service.Weeks(ctx, views.WeeksAsked{From: in.From, Weeks: in.Weeks, First: in.First, Count: in.Count})
		})
	get(r, "get-starts", look, "/api/steps/{id}/coats/{coat}/starts", "Where a sitting may be put by hand, and why not elsewhere",
		func(ctx context.Context, in *startsAsked) (views.StartsView, error) {
			return service.Starts(ctx, in.ID, in.Coat, in.until())
		})
	post(r, "ask-what-if", look, "/api/what-ifs", "Plan changes beside today's plan without keeping them", http.StatusOK,
		func(ctx context.Context, in *changes.Changes) (views.WhatIf, error) {
			return service.WhatIf(ctx, *in)
		})
	post(r, "ask-repairs", look, "/api/repairs", "The ways of putting some damage right, with hours, days and risk", http.StatusOK,
		func(ctx context.Context, in *views.RepairAsked) (views.RepairView, error) {
			return service.Repairs(ctx, *in)
		})
	post(r, "keep-changes", bench, "/api/changes", "Make changes real: all of them, or none", http.StatusCreated,
		once(func(ctx context.Context, in *changes.Changes) (views.Kept, error) {
			return service.KeepChanges(ctx, *in)
		}))
	get(r, "list-recipes", look, "/api/recipes", "Recipes of the shop's own",
		func(ctx context.Context, _ *struct{}) ([]views.RecipeLine, error) {
			return service.Recipes(ctx)
		})
	get(r, "get-recipe", look, "/api/recipes/{id}",
		"One of them with its versions, and what the latest would do where an earlier one is used",
		func(ctx context.Context, in *byID) (views.RecipeView, error) {
			return service.Recipe(ctx, in.ID)
		})
	post(r, "save-recipe", whole, "/api/recipes", "Save a recipe, or another version of one", http.StatusCreated,
		once(func(ctx context.Context, in *changes.RecipeSaved) (views.RecipeView, error) {
			return service.SaveRecipe(ctx, *in)
		}))
	post(r, "name-recipe", whole, "/api/recipes/name", "Give a recipe another name, or take it from what is offered", http.StatusOK,
		func(ctx context.Context, in *changes.RecipeNamed) (views.RecipeView, error) {
			return service.NameRecipe(ctx, *in)
		})
	post(r, "compare-recipes", look, "/api/recipes/compare", "Two versions line by line", http.StatusOK,
		func(ctx context.Context, in *views.RecipePair) (views.RecipeCompared, error) {
			return service.CompareRecipes(ctx, *in)
		})
	post(r, "undo-change", whole, "/api/undo", "Take back the change of a schedule that was made last", http.StatusOK,
		func(ctx context.Context, in *changes.TakenBack) (views.Kept, error) {
			return service.Undo(ctx, *in)
		})
	post(r, "redo-change", whole, "/api/redo", "Make again the change of a schedule that was taken back last", http.StatusOK,
		func(ctx context.Context, in *changes.TakenBack) (views.Kept, error) {
			return service.Redo(ctx, *in)
		})
	get(r, "get-proposal", look, "/api/proposal", "The better order of work that was found last",
		func(ctx context.Context, _ *struct{}) (views.ProposalNow, error) {
			return service.Proposal(ctx)
		})
	post(r, "accept-proposal", whole, "/api/proposal/accept", "Make a proposed order the accepted one", http.StatusOK,
		func(ctx context.Context, in *views.Decision) (views.Kept, error) {
			return service.AcceptProposal(ctx, *in)
		})
	post(r, "dismiss-proposal", whole, "/api/proposal/dismiss", "Decline what a proposal gains for a week", http.StatusOK,
		func(ctx context.Context, in *views.Decision) (views.ProposalNow, error) {
			if err := service.DismissProposal(ctx, *in); err != nil {
				return views.ProposalNow{}, err
			}
			return service.Proposal(ctx)
		})
	get(r, "get-shop", look, "/api/shop", "What the shop has decided about itself",
		func(ctx context.Context, _ *struct{}) (views.ShopView, error) {
			return service.Shop(ctx)
		})
	get(r, "list-backups", whole, "/api/backups", "Backups that the server keeps by itself, and whether one may be restored",
		func(ctx context.Context, _ *struct{}) (shop.BackupsView, error) {
			return service.Backups(ctx)
		})
	get(r, "list-timers", look, "/api/timers", "Timers that run, or have rung and that nobody has stopped",
		func(ctx context.Context, _ *struct{}) ([]views.TimerView, error) {
			return service.Timers(ctx)
		})
	get(r, "list-sittings", look, "/api/sittings", "Sittings that are under way, and those that could be begun today",
		func(ctx context.Context, _ *struct{}) (views.SittingsNow, error) {
			return service.Sittings(ctx)
		})
	get(r, "get-sitting", look, "/api/sittings/{id}", "A sitting that was begun: what to lay out, and its steps in order",
		func(ctx context.Context, in *byID) (views.SittingView, error) {
			return service.Sitting(ctx, in.ID)
		})
	get(r, "get-planned-sitting", look, "/api/steps/{id}/coats/{coat}/sitting",
		"The sitting that an event is planned in, as it could be begun",
		func(ctx context.Context, in *byEvent) (views.SittingView, error) {
			return service.PlannedSitting(ctx, changes.EventRef{StepID: in.ID, Coat: in.Coat})
		})
	post(r, "begin-sitting", bench, "/api/sittings", "Begin a sitting; the same once more changes nothing", http.StatusCreated,
		once(func(ctx context.Context, in *views.SittingBegun) (views.SittingView, error) {
			return service.BeginSitting(ctx, *in)
		}))
	post(r, "change-sitting", bench, "/api/sittings/change", "Acknowledge cautions of a sitting, or end it", http.StatusOK,
		func(ctx context.Context, in *views.SittingChanged) (views.SittingView, error) {
			return service.ChangeSitting(ctx, *in)
		})
	get(r, "get-hours", look, "/api/hours", "How long work took against what was planned",
		func(ctx context.Context, in *hoursAsked) (views.Hours, error) {
			return service.Hours(ctx, in.Days)
		})
	post(r, "read-log", look, "/api/log-pages", "Some lines of the log of the shop or of an instrument, the newest first", http.StatusOK,
		func(ctx context.Context, in *views.LogAsked) (views.LogPage, error) {
			return service.LogPage(ctx, *in)
		})
	post(r, "log-entry", bench, "/api/log", "Append to the log; the same once more changes nothing", http.StatusCreated,
		once(func(ctx context.Context, in *changes.Entry) (changes.Logged, error) {
			in.Older = fromOlder(ctx)
			return service.Log(ctx, *in)
		}))
}
