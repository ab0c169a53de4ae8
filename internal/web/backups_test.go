package web_test

import (
	"bytes"
	"io"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/formats"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/views"
)

// send posts a body of a type, and returns the status and what was answered.
func (r *room) send(path, kind string, body []byte) (int, problem) {
	r.t.Helper()
	request := httptest.NewRequest("POST", path, bytes.NewReader(body))
	request.Header.Set("Content-Type", kind)
	var p problem
	_, status := r.do(request, &p)
	return status, p
}

func TestABackupComesOutAndOnlyABackupGoesIn(t *testing.T) {
	t.Parallel()
	r := open(t)
	request := httptest.NewRequest("GET", "/api/backup-file", nil)
	request.Host = "localhost"
	answer, err := r.answer(request)
	require.NoError(t, err)
	require.Equal(t, 200, answer.StatusCode)
	assert.Contains(t, answer.Header.Get("Content-Disposition"), ".backup\"")
	backup, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	assert.Equal(t, "\x1f\x8b", string(backup[:2]), "rows, zipped")

	var view shop.BackupsView
	require.Equal(t, 200, r.get("/api/backups", &view))
	assert.False(t, view.Empty)
	assert.Equal(t, int64(formats.MaxBytes), view.Most)
	const octets = "application/octet-stream"
	status, _ := r.send("/api/backup-file", "application/json", backup)
	assert.Equal(t, 415, status)
	status, p := r.send("/api/backup-file", octets, backup)
	assert.Equal(t, 409, status)
	assert.Contains(t, p.Detail, "an empty shop only")
	require.Equal(t, 422, r.post("/api/instruments/delete", views.Deletion{InstrumentID: r.instrument.ID, Name: "another"}, &p))
	assert.Contains(t, p.at("body.name"), "type its name")
	require.Equal(t, 200, r.post("/api/instruments/delete", views.Deletion{InstrumentID: r.instrument.ID, Name: r.instrument.Name}, nil))
	status, p = r.send("/api/backup-file", octets, []byte("not a backup"))
	assert.Equal(t, 422, status)
	assert.Contains(t, p.Detail, "no backup of Umberfrost")
	status, _ = r.send("/api/log", octets, backup)
	assert.Equal(t, 415, status, "and nowhere else")
	status, _ = r.send("/api/backup-file", octets, backup)
	assert.Equal(t, 201, status, "a shop with nothing in it may be replaced")
	assert.Equal(t, 200, r.get("/api/instruments/"+r.instrument.ID.String(), nil), "and it is there again")
	assert.Equal(t, 404, r.get("/api/backups/umberfrost-2026-01-01.backup/file", nil))
	assert.Equal(t, 404, r.get("/api/backups/..%2Fpassword/file", nil))
}
