package web

import (
	"bytes"
	"encoding/json"
	"log/slog"
	"net/http/httptest"
	"testing"

	"github.com/gofiber/fiber/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAPanicIsAnsweredAndWrittenDown(t *testing.T) {
	t.Parallel()
	var out bytes.Buffer
	log, err := NewLog(&out, slog.LevelInfo, "json")
	require.NoError(t, err)
	app := fiber.New(fiber.Config{ErrorHandler: handleError(log)})
	app.Use(observed(log, NewMetrics()), recovered(log), headers)
	app.Get("/api/breaks", func(*fiber.Ctx) error { panic("a secret of the shop") })
	answer, err := app.Test(httptest.NewRequest("GET", "/api/breaks", nil))
	require.NoError(t, err)
	defer answer.Body.Close()
	assert.Equal(t, 500, answer.StatusCode)
	var p struct{ Detail string }
	require.NoError(t, json.NewDecoder(answer.Body).Decode(&p))
	assert.Equal(t, "Something went wrong in the server. Nothing was saved.", p.Detail)
	lines := bytes.Split(bytes.TrimSpace(out.Bytes()), []byte("\n"))
	require.Len(t, lines, 3, "the panic, the failure, and the request: %s", out.String())
	for _, line := range lines {
		var said struct{ Request string }
		require.NoError(t, json.Unmarshal(line, &said))
		assert.Equal(t, answer.Header.Get(requestID), said.Request)
	}
	assert.Contains(t, string(lines[0]), "a secret of the shop")
	assert.Contains(t, string(lines[0]), "observed_test.go", "where it happened")
}

func TestALogIsTextOrJSON(t *testing.T) {
	t.Parallel()
	for format, want := range map[string]string{"text": "msg=quiet", "json": `"msg":"quiet"`} {
		var out bytes.Buffer
		log, err := NewLog(&out, slog.LevelWarn, format)
		require.NoError(t, err)
		log.Info("loud")
		log.With("a", 1).WithGroup("g").Warn("quiet", "b", 2)
		assert.Contains(t, out.String(), want)
		assert.NotContains(t, out.String(), "loud")
	}
	_, err := NewLog(&bytes.Buffer{}, slog.LevelInfo, "xml")
	assert.Error(t, err)
}
