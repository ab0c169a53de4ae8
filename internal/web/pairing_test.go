package web_test

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/shop"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/views"
	"umberfrost/internal/web"
)

// device is something that asks from the network, through a proxy on this machine.
type device struct {
	*room
	token string // none: it is not paired
}

// asks sends what it shows, and gives what is answered.
func (d device) asks(method, path string, body any) (status int, answer []byte, header http.Header) {
	d.t.Helper()
	data := []byte("{}")
	if body != nil {
		var err error
		data, err = json.Marshal(body)
		require.NoError(d.t, err)
	}
	request := httptest.NewRequest(method, path, strings.NewReader(string(data)))
	request.Host = "shop.local:8443"
	request.Header.Set("X-Forwarded-For", "10.0.0.7")
	if method == http.MethodPost {
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set("Origin", "https://shop.local:8443")
	} else {
		request.Header.Set("Sec-Fetch-Site", "same-origin")
	}
	if d.token != "" {
		request.Header.Set("Authorization", "Bearer "+d.token)
	}
	return d.read(request)
}

func (r *room) read(request *http.Request) (status int, answer []byte, header http.Header) {
	r.t.Helper()
	response, err := r.answer(request)
	require.NoError(r.t, err)
	defer response.Body.Close()
	var text strings.Builder
	if response.Header.Get("Content-Type") != "text/event-stream" {
		_, err = io.Copy(&text, response.Body)
		require.NoError(r.t, err)
	}
	return response.StatusCode, []byte(text.String()), response.Header
}

// pair lets a device in.
func (r *room) pair(role access.Role, person uuid.UUID, name string) device {
	r.t.Helper()
	var code shop.CodeMade
	require.Equal(r.t, 201, r.post("/api/pairing-codes", shop.CodeAsked{Role: role, PersonID: person}, &code))
	status, answer, header := device{room: r}.asks("POST", "/api/pair",
		shop.PairAsked{Code: strings.ToLower(code.Code), Name: name, Bearer: true})
	require.Equal(r.t, 201, status, string(answer))
	require.Empty(r.t, header.Get("Set-Cookie"))
	var door web.DoorView
	require.NoError(r.t, json.Unmarshal(answer, &door))
	require.NotEmpty(r.t, door.Token)
	return device{r, door.Token}
}

// withRole are the operations with the least role that each needs; none: it is open.
func withRole(t *testing.T) map[[2]string]string {
	list, _ := operations(t)
	made, err := web.OpenAPI()
	require.NoError(t, err)
	var doc struct {
		Paths map[string]map[string]struct {
			Role string `json:"x-role"`
		}
	}
	require.NoError(t, json.Unmarshal(made, &doc))
	needs := make(map[[2]string]string)
	for _, o := range list {
		if op, typed := doc.Paths[o.path][strings.ToLower(o.method)]; typed {
			needs[[2]string{o.method, o.path}] = op.Role
		}
	}
	for o, role := range map[[2]string]string{
		{"GET", "/api/schedule-file"}: "look", {"POST", "/api/schedule-file"}: "shop",
		{"GET", "/api/instruments/{id}/schedule-file"}: "look", {"GET", "/api/recipes/{id}/file"}: "look",
		{"POST", "/api/recipe-file"}: "shop", {"GET", "/api/backup-file"}: "shop",
		{"GET", "/api/backups/x/file"}: "shop", {"GET", "/api/events"}: "look",
	} {
		needs[o] = role
	}
	return needs
}

func TestEveryOperationIsForPairedDevicesOfItsRole(t *testing.T) {
	t.Parallel()
	r := open(t)
	var reference views.Reference
	require.Equal(t, 200, r.get("/api/reference", &reference))
	mara := reference.People[0].ID
	stranger := device{room: r}
	devices := map[access.Role]device{}
	for _, role := range []access.Role{access.RoleLook, access.RoleBench, access.RoleShop} {
		devices[role] = r.pair(role, mara, "A device to "+string(role))
	}
	gone := r.pair(access.RoleShop, mara, "A lost tablet")
	r.withdraw("A lost tablet")
	free := 0
	for o, least := range withRole(t) {
		path := strings.NewReplacer("{id}", r.instrument.ID.String(), "{coat}", "1").Replace(o[1])
		name := o[0] + " " + o[1]
		if least == "" {
			free++
			assert.Contains(t, []string{"GET /api/door", "POST /api/pair"}, name, "open to everybody")
			continue
		}
		for who, d := range map[string]device{"unpaired": stranger, "withdrawn": gone, "unheard of": {r, "x"}} {
			status, answer, _ := d.asks(o[0], path, nil)
			assert.Equal(t, 401, status, "%s, %s", name, who)
			var p problem
			require.NoError(t, json.Unmarshal(answer, &p))
			assert.Equal(t, map[string]string{"unpaired": "/problems/unpaired", "withdrawn": "/problems/withdrawn",
				"unheard of": "/problems/unpaired"}[who], p.Type)
		}
		for role, d := range devices {
			if path == "/api/events" && role.May(access.Role(least)) {
				continue // it never ends
			}
			status, answer, _ := d.asks(o[0], path, nil)
			if role.May(access.Role(least)) {
				assert.NotContains(t, []int{401, 403, 500}, status, "%s, with role %s: %s", name, role, answer)
			} else {
				assert.Equal(t, 403, status, "%s, with role %s", name, role)
			}
		}
	}
	assert.Equal(t, 2, free)
	assert.Empty(t, r.logbook())
}

func (r *room) withdraw(name string) {
	r.t.Helper()
	var pairings []shop.PairingView
	require.Equal(r.t, 200, r.get("/api/pairings", &pairings))
	for _, p := range pairings {
		if p.Name == name {
			require.Equal(r.t, 200, r.post("/api/pairings/change", shop.PairingChanged{ID: p.ID, Withdraw: true}, &pairings))
			return
		}
	}
	r.t.Fatal("no such device: ", name)
}

func TestWhoDidItIsWhoIsOnTheDevice(t *testing.T) {
	t.Parallel()
	r := open(t)
	var reference views.Reference
	require.Equal(t, 200, r.get("/api/reference", &reference))
	mara, tobin := reference.People[0].ID, reference.People[1].ID
	tablet := r.pair(access.RoleBench, mara, "Bench tablet")

	entry := r.entry("Sand the bare wood", 1)
	entry.PersonID = tobin
	status, answer, _ := tablet.asks("POST", "/api/log", entry)
	require.Equal(t, 201, status, string(answer))
	line := r.logbook()[0]
	assert.Equal(t, "Tobin", line.By, "who has worked is chosen")
	assert.Equal(t, "Bench tablet by Mara", line.EnteredBy)

	status, answer, _ = tablet.asks("POST", "/api/readings/typed", map[string]any{"id": uuid.New(), "placeId": reference.Places[0].ID,
		"temperature": "19", "humidity": "50", "personId": tobin})
	require.Equal(t, 201, status, string(answer))
	file, err := r.service.Export(t.Context(), nil)
	require.NoError(t, err)
	assert.Equal(t, mara, *file.Shop.Readings[0].Person, "a request that claims another is not believed")
	assert.Equal(t, "Bench tablet", file.Log[0].Entered.Device)

	changes := map[string]any{"id": uuid.New(), "personId": tobin, "changes": []any{map[string]any{"kind": "day", "date": "2026-03-20",
		"open": false}}}
	status, answer, _ = tablet.asks("POST", "/api/changes", changes)
	assert.Equal(t, 403, status, "the bench moves work, and closes no days: %s", answer)
	changes["changes"] = []any{map[string]any{"kind": "pin",
		"stepId": r.instrument.Pieces[0].Steps[len(r.instrument.Pieces[0].Steps)-1].StepID, "coat": 1, "at": "2026-04-14T09:00:00Z"}}
	status, answer, _ = tablet.asks("POST", "/api/changes", changes)
	assert.Equal(t, 201, status, string(answer))
}

func TestACodeLetsOneDeviceInOnce(t *testing.T) {
	t.Parallel()
	r := open(t)
	stranger := device{room: r}
	var code shop.CodeMade
	require.Equal(t, 201, r.post("/api/pairing-codes", shop.CodeAsked{Role: access.RoleLook, PersonID: r.person}, &code))
	assert.Regexp(t, `^[0-9A-HJKMNP-TV-Z]{4}-[0-9A-HJKMNP-TV-Z]{4}$`, code.Code)
	r.clock = r.clock.Add(11 * time.Minute)
	status, answer, _ := stranger.asks("POST", "/api/pair", shop.PairAsked{Code: code.Code, Name: "Late"})
	assert.Equal(t, 422, status)
	assert.Contains(t, string(answer), "body.code")
	assert.NotContains(t, string(answer), code.Code, "what was entered is not echoed")

	require.Equal(t, 201, r.post("/api/pairing-codes", shop.CodeAsked{Role: access.RoleLook, PersonID: r.person}, &code))
	status, _, header := stranger.asks("POST", "/api/pair", shop.PairAsked{Code: " " + strings.ReplaceAll(code.Code, "-", " "),
		Name: "Phone"})
	require.Equal(t, 201, status)
	cookie := header.Get("Set-Cookie")
	for _, part := range []string{"__Host-umberfrost-device=", "Path=/", "HttpOnly", "Secure", "SameSite=Strict"} {
		assert.Contains(t, cookie, part)
	}
	status, _, _ = stranger.asks("POST", "/api/pair", shop.PairAsked{Code: code.Code, Name: "Another"})
	assert.Equal(t, 422, status, "a code is for one device")

	request := httptest.NewRequest("GET", "/api/door", nil)
	request.Host = "shop.local:8443"
	request.Header.Set("X-Forwarded-For", "10.0.0.7")
	request.Header.Set("Cookie", strings.SplitN(cookie, ";", 2)[0])
	_, answer, header = r.read(request)
	var door web.DoorView
	require.NoError(t, json.Unmarshal(answer, &door))
	assert.Equal(t, web.DoorView{Paired: true, Role: "look", Device: "Phone", PersonID: r.person.String(), Authority: true,
		Addresses: []string{}, Pins: []uuid.UUID{}}, door)
	assert.Contains(t, header.Get("Set-Cookie"), "Max-Age=34560000", "and stays paired while it is used")

	for range 10 {
		stranger.asks("POST", "/api/pair", shop.PairAsked{Code: "0000-0000", Name: "Guesser"})
	}
	status, _, header = stranger.asks("POST", "/api/pair", shop.PairAsked{Code: "0000-0000", Name: "Guesser"})
	assert.Equal(t, 429, status)
	assert.NotEmpty(t, header.Get("Retry-After"))

	require.Equal(t, 201, r.post("/api/pairing-codes", shop.CodeAsked{Role: access.RoleLook, PersonID: r.person}, &code))
	status, _, _ = stranger.asks("POST", "/api/pair", shop.PairAsked{Code: code.Code, Name: "Guesser"})
	assert.Equal(t, 429, status, "who has guessed waits, also with the right one")
	for address, want := range map[string]int{"10.0.0.7, 2001:db8::1": 201, "10.0.0.8, 10.0.0.7": 429} { // the proxy's own word comes last
		data, err := json.Marshal(shop.PairAsked{Code: code.Code, Name: "From elsewhere"})
		require.NoError(t, err)
		request := httptest.NewRequest("POST", "/api/pair", strings.NewReader(string(data)))
		request.Host = "shop.local:8443"
		request.Header.Set("X-Forwarded-For", address)
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set("Origin", "https://shop.local:8443")
		status, _, _ := r.read(request)
		assert.Equal(t, want, status, "strangers shut pairing for themselves: %s", address)
	}
}

func TestOfFortyPinsAtOnceFiveAreJudged(t *testing.T) {
	t.Parallel()
	r := open(t)
	var reference views.Reference
	require.Equal(t, 200, r.get("/api/reference", &reference))
	mara, tobin := reference.People[0].ID, reference.People[1].ID
	tablet := r.pair(access.RoleBench, mara, "Bench tablet")
	require.Equal(t, 200, r.post("/api/people/pin", shop.PinSet{PersonID: tobin, Pin: "4711"}, nil))
	var judged atomic.Int64
	var asked sync.WaitGroup
	for n := range 40 {
		asked.Go(func() {
			if status, _, _ := tablet.asks("POST", "/api/door/person", shop.OnDevice{PersonID: tobin,
				Pin: fmt.Sprint(1000 + n)}); status == 422 {
				judged.Add(1)
			}
		})
	}
	for range 20 {
		assert.Equal(t, 200, r.get("/api/rack", nil), "others are answered meanwhile")
	}
	asked.Wait()
	assert.LessOrEqual(t, judged.Load(), int64(5))
	assert.Positive(t, judged.Load())
}

func TestAPINBeforeSomebodyIsOnADevice(t *testing.T) {
	t.Parallel()
	r := open(t)
	var reference views.Reference
	require.Equal(t, 200, r.get("/api/reference", &reference))
	mara, tobin := reference.People[0].ID, reference.People[1].ID
	tablet := r.pair(access.RoleBench, mara, "Bench tablet")
	var p problem
	var door web.DoorView
	for _, wrong := range []string{"123", "123456789", "12a4", "１２３４"} {
		assert.Equal(t, 422, r.post("/api/people/pin", shop.PinSet{PersonID: tobin, Pin: wrong}, &p))
		assert.Contains(t, p.at("body.pin"), "4 to 8 digits")
	}
	require.Equal(t, 200, r.post("/api/people/pin", shop.PinSet{PersonID: tobin, Pin: "4711"}, &door))
	assert.Equal(t, []uuid.UUID{tobin}, door.Pins)
	status, answer, _ := tablet.asks("POST", "/api/door/person", shop.OnDevice{PersonID: tobin, Pin: "4712"})
	assert.Equal(t, 422, status, string(answer))
	status, answer, _ = tablet.asks("POST", "/api/door/person", shop.OnDevice{PersonID: tobin, Pin: "4711"})
	require.Equal(t, 200, status, string(answer))
	require.NoError(t, json.Unmarshal(answer, &door))
	assert.Equal(t, tobin.String(), door.PersonID)
	status, _, _ = tablet.asks("POST", "/api/door/person", shop.OnDevice{PersonID: mara})
	assert.Equal(t, 200, status, "she has none")
	for range 5 {
		tablet.asks("POST", "/api/door/person", shop.OnDevice{PersonID: tobin, Pin: "0000"})
	}
	status, _, _ = tablet.asks("POST", "/api/door/person", shop.OnDevice{PersonID: tobin, Pin: "4711"})
	assert.Equal(t, 429, status, "nobody guesses for long")
	status, _, _ = tablet.asks("POST", "/api/door/person", shop.OnDevice{PersonID: uuid.New()})
	assert.Equal(t, 422, status)
}

func TestTheAuthorityIsForEverybodyToTake(t *testing.T) {
	t.Parallel()
	r := open(t)
	status, answer, header := device{room: r}.asks("GET", "/authority.crt", nil)
	assert.Equal(t, 200, status)
	assert.Equal(t, "application/x-x509-ca-cert", header.Get("Content-Type"))
	assert.Equal(t, "an authority", string(answer))
}
