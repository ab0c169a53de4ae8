package e2e

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"
)

func post(t testing.TB, url string, body any, want int) {
	t.Helper()
	data, err := json.Marshal(body)
	require.NoError(t, err)
	answer, err := http.Post(url, "application/json", bytes.NewReader(data))
	require.NoError(t, err)
	defer answer.Body.Close()
	require.Equal(t, want, answer.StatusCode)
}

func fetch(t testing.TB, url string) []byte {
	t.Helper()
	answer, err := http.Get(url)
	require.NoError(t, err)
	defer answer.Body.Close()
	body, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	require.Equal(t, 200, answer.StatusCode, "%.300s", body)
	return body
}

func get[T any](t testing.TB, url string) T {
	t.Helper()
	var out T
	require.NoError(t, json.Unmarshal(fetch(t, url), &out))
	return out
}
