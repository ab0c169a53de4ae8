package web

import (
	"context"
	"log/slog"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
)

// Health is the answer of a server that is well.
type Health struct {
	Status string    `json:"status" enum:"ok"`
	Now    time.Time `json:"now" doc:"the present as the server sees it"`
	Space  []Space   `json:"space" doc:"how much room is left where this server keeps data; of a database elsewhere it does not know"`
}

type byID struct {
	ID uuid.UUID `path:"id"`
}

type byEvent struct {
	ID   uuid.UUID `path:"id" doc:"of the step"`
	Coat int       `path:"coat" minimum:"1" maximum:"50" doc:"counted from 1"`
}

type havingAsked struct {
	For    string    `query:"for" enum:"half-hour,two-hours,evening" required:"true"`
	Person uuid.UUID `query:"person" required:"true" doc:"whose hands"`
}

type hoursAsked struct {
	Days int `query:"days" default:"90" minimum:"1" maximum:"3660" doc:"how far back"`
}

type weeksAsked struct {
	From  string `query:"from" doc:"its first day, like 2026-03-09; without it the Monday of this week"`
	Weeks int    `query:"weeks" minimum:"1" maximum:"26" default:"6"`
	First int    `query:"first" minimum:"0" default:"0" doc:"how many instruments to leave out"`
	Count int    `query:"count" minimum:"0" maximum:"60" default:"40" doc:"how many instruments at most"`
}

type startsAsked struct {
	ID    uuid.UUID `path:"id" doc:"of the step"`
	Coat  int       `path:"coat" minimum:"1" maximum:"50" doc:"counted from 1"`
	Until time.Time `query:"until" doc:"within a year; without it twelve weeks from now"`
}

func (s startsAsked) until() *time.Time {
	if s.Until.IsZero() {
		return nil
	}
	return &s.Until
}

type body[T any] struct {
	Body T
}

type registrar struct {
	api huma.API
	log *slog.Logger
	now func() time.Time
}

// get registers an operation that reads.
func get[In, Out any](r registrar, id string, least access.Role, path, summary string, do func(context.Context, *In) (Out, error)) {
	huma.Register(r.api, operation(id, least, http.MethodGet, path, summary, http.StatusOK),
		func(ctx context.Context, in *In) (*body[Out], error) {
			out, err := do(ctx, in)
			if err != nil {
				return nil, inQuery(r.problem(ctx, id, err))
			}
			return &body[Out]{out}, nil
		})
}

// post registers an operation that takes a body.
func post[In, Out any](r registrar, id string, least access.Role, path, summary string, status int,
	do func(context.Context, *In) (Out, error)) {
	huma.Register(r.api, operation(id, least, http.MethodPost, path, summary, status),
		func(ctx context.Context, in *body[In]) (*body[Out], error) {
			if err := refuse.Implausible(in.Body, r.now()); err != nil {
				return nil, r.problem(ctx, id, err)
			}
			out, err := do(ctx, &in.Body)
			if err != nil {
				return nil, r.problem(ctx, id, err)
			}
			return &body[Out]{out}, nil
		})
}

// once refuses what has no id to be kept once under: sent again after a lost answer, it would be kept twice.
func once[In interface{ Once() uuid.UUID }, Out any](do func(context.Context, *In) (Out, error)) func(context.Context, *In) (Out, error) {
	return func(ctx context.Context, in *In) (Out, error) {
		if (*in).Once() == uuid.Nil {
			var none Out
			return none, &refuse.Invalid{Faults: []recipe.Fault{{Path: "id",
				Message: "give it an id of its own, a UUID that the device makes: it is kept once under that, however often it is sent"}}}
		}
		return do(ctx, in)
	}
}

// The least role of a device that may ask for an operation.
const (
	look  = access.RoleLook
	bench = access.RoleBench
	whole = access.RoleShop
)

// roleNote is where the document of the API says of each operation which role it needs. Where it says none, nobody
// need be paired.
const roleNote = "x-role"

func operation(id string, least access.Role, method, path, summary string, status int) huma.Operation {
	return huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, DefaultStatus: status,
		MaxBodyBytes: bodyLimit, BodyReadTimeout: -1, Extensions: map[string]any{roleNote: least}}
}
