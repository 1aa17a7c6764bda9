package httpapi_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"testing/fstest"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/book/demo"
	"handwerk/book/files"
	bookshop "handwerk/book/shop"
	"handwerk/httpapi"
	"handwerk/httpapi/news"
	"handwerk/postgres"
	"handwerk/postgres/conn"
	"handwerk/postgres/pgtest"
	"handwerk/workshop"
	"handwerk/workshop/kinds"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

const password = "tide-and-torque"

// hashed and demoBook are made once; nothing writes in them.
var (
	hashed   = sync.OnceValue(func() string { return cheaply(password) })
	demoBook = sync.OnceValues(func() (book.Book, error) {
		return files.Load(kinds.Natures(), bookshop.Files,
			demo.Files)
	})
)

// cheaply hashes a password as no shop would: a hash carries its own cost, and
// here hundreds sign in. What the real cost is for is tested with wrong names.
func cheaply(password string) string {
	hash, err := argon2id.CreateHash(password, &argon2id.Params{Memory: 64, Iterations: 1, Parallelism: 1,
		SaltLength: 16, KeyLength: 32})
	if err != nil {
		panic(err)
	}
	return hash
}

// process is one server on a database; several may share it. Requests go to it
// straight, without a network between, but for tests that call listen.
type process struct {
	t     testing.TB
	app   *fiber.App
	store *postgres.Store
	now   time.Time
	log   *lines
	// listen opens the process to the network and gives its address: for
	// streams, and for what is sent by hand.
	listen func() string
	hears  chan struct{} // closed when it hears what others keep
}

const (
	origin   = "http://127.0.0.1" // where pages of the process come from
	straight = "0.0.0.0"          // the address of whoever asks without a network
)

func start(t testing.TB, url string, with ...func(*httpapi.Options)) *process {
	t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	store := pgtest.Open(t, url)
	b, err := demoBook()
	require.NoError(t, err)
	p := &process{t: t, store: store, now: time.Now(), log: &lines{}, hears: make(chan struct{})}
	log := slog.New(slog.NewJSONHandler(p.log, nil))
	hub := news.NewHub()
	clock := func() time.Time { return p.now }
	options := httpapi.Options{
		Workshop: workshop.New(store, b, clock), Accounts: store, Photos: store.Photos, Checkpoint: store.Checkpoint,
		Ready:  store.Ready,
		IsLost: conn.IsLost, IsFull: conn.IsFull, WhyStuck: postgres.WhyStuck, Hub: hub, Log: log, Now: clock,
		Zone: store.Zone, Currency: store.Currency,
		Front: fstest.MapFS{
			"index.html": {Data: []byte("<title>front</title>")}, "assets/a.js": {Data: []byte("1")},
			"assets/a.js.br": {Data: []byte("packed")},
		},
	}
	for _, change := range with {
		change(&options)
	}
	p.app = httpapi.New(options)
	p.listen = sync.OnceValue(p.openPort)
	hears := sync.OnceFunc(func() { close(p.hears) })
	go store.Listen(ctx, slog.New(slog.DiscardHandler), func(e conn.Event) {
		hears()
		if e.Session != "" {
			hub.EndSession(e.Session)
			return
		}
		hub.Tell(e.Rebuild, news.Event{Seq: e.Seq, Step: e.Step})
	})
	t.Cleanup(func() {
		hub.Close()
		cancel()
	})
	return p
}

func (p *process) openPort() string {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(p.t, err)
	go func() {
		_ = p.app.Listener(httpapi.Listener(listener), fiber.ListenConfig{DisableStartupMessage: true})
	}()
	p.t.Cleanup(func() { _ = p.app.ShutdownWithTimeout(5 * time.Second) })
	return listener.Addr().String()
}

// lines is a log that many may write and read.
type lines struct {
	mu   sync.Mutex
	text bytes.Buffer
}

func (l *lines) Write(p []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.text.Write(p)
}

func (l *lines) String() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.text.String()
}

// opened is a process on a new database with people, one vehicle, a drawer. It
// shares nothing, so its test may run beside others.
func opened(t testing.TB, with ...func(*httpapi.Options)) (*process, string) {
	t.Helper()
	url := pgtest.URL(t)
	p := start(t, url, with...)
	ctx := context.Background()
	hash := hashed()
	for login, role := range map[string]people.Role{"ilva": people.Lead, "odo": people.Mechanic,
		"guest": people.Reader} {
		require.NoError(
			t,
			p.store.KeepAccount(
				ctx,
				people.Account{
					Person: people.Person{Login: login, Name: strings.ToUpper(login), Role: role}, PasswordHash: hash,
				},
			),
		)
	}
	require.NoError(t, p.store.KeepFleet(ctx, []shop.Vehicle{{ID: "v", Name: "Launch carrier", Owner: "Sea rescue",
		Units: []shop.Unit{
			{ID: "tc", Kind: "transfer case", Name: "Brakka T2", Serial: "1", Sheet: "brakka-t2",
				Route: "transfer-case-dog"}}}},
		[]postgres.StockLine{{Drawer: "thrust-washers", Thickness: "0.52 mm", Name: "washer", Count: 2}}))
	return p, url
}

// user is a signed-in browser.
type user struct {
	*process
	cookie, csrf string
}

// visitor is somebody who has not signed in.
func (p *process) visitor() *user { return &user{process: p} }

func (p *process) signIn(login string) *user {
	p.t.Helper()
	u := &user{process: p}
	res, body := u.send(http.MethodPost, "/api/v1/session",
		fmt.Sprintf(`{"login":%q,"password":%q}`, login, password), nil)
	require.Equal(p.t, http.StatusOK, res.StatusCode, body)
	u.cookie = cookieOf(res, "handwerk_session")
	var session httpapi.SessionView
	require.NoError(p.t, json.Unmarshal([]byte(body), &session))
	u.csrf = session.CSRF
	return u
}

// cookieOf is a cookie that an answer sets, as it is sent back.
func cookieOf(res *http.Response, name string) string {
	for _, c := range res.Cookies() {
		if c.Name == name {
			return c.Name + "=" + c.Value
		}
	}
	return ""
}

func (u *user) send(method, path, body string, headers map[string]string) (*http.Response, string) {
	u.t.Helper()
	req, err := http.NewRequest(method, origin+path, strings.NewReader(body))
	require.NoError(u.t, err)
	if body != "" {
		req.Header.Set("Content-Type", "application/json")
	}
	req.Header.Set("User-Agent", "a browser")
	req.Header.Set("Cookie", u.cookie)
	req.Header.Set("X-CSRF-Token", u.csrf)
	for k, v := range headers {
		req.Header.Set(k, v)
	}
	res, err := u.app.Test(req, fiber.TestConfig{Timeout: 0})
	require.NoError(u.t, err)
	defer func() { _ = res.Body.Close() }()
	raw, err := io.ReadAll(res.Body)
	require.NoError(u.t, err)
	return res, string(raw)
}

// stream opens a stream of events and reads its first line.
func (u *user) stream(path string) *bufio.Scanner {
	u.t.Helper()
	<-u.hears // what was kept before is read, not heard
	req, err := http.NewRequest(http.MethodGet, "http://"+u.listen()+path, nil)
	require.NoError(u.t, err)
	req.Header.Set("Cookie", u.cookie)
	req.Header.Set("Accept", "text/event-stream")
	res, err := http.DefaultClient.Do(req)
	require.NoError(u.t, err)
	u.t.Cleanup(func() { _ = res.Body.Close() })
	lines := bufio.NewScanner(res.Body)
	require.True(u.t, lines.Scan(), "the stream opens")
	return lines
}

func (u *user) get(path string, into any) {
	u.t.Helper()
	res, body := u.send(http.MethodGet, path, "", nil)
	require.Equal(u.t, http.StatusOK, res.StatusCode, body)
	require.NoError(u.t, json.Unmarshal([]byte(body), into), body)
}

// step reads one step.
func (u *user) step(path string) record.StepView {
	u.t.Helper()
	res, body := u.send(http.MethodGet, path, "", nil)
	require.Equal(u.t, http.StatusOK, res.StatusCode, body)
	view, err := kinds.ReadStepView([]byte(body))
	require.NoError(u.t, err, body)
	return view
}

var keys atomic.Int64

func key() map[string]string {
	return map[string]string{"Idempotency-Key": fmt.Sprintf("test-key-%d", keys.Add(1))}
}

func (u *user) open() record.Rebuild {
	u.t.Helper()
	promised := u.now.AddDate(0, 0, 7).Format(time.DateOnly)
	res, body := u.send(
		http.MethodPost, "/api/v1/rebuilds",
		fmt.Sprintf(`{"vehicle":"v","unit":"tc","complaint":"bangs","promised":%q}`, promised), key(),
	)
	require.Equal(u.t, http.StatusCreated, res.StatusCode, body)
	var r record.Rebuild
	require.NoError(u.t, json.Unmarshal([]byte(body), &r))
	return r
}

func problemOf(t testing.TB, res *http.Response, body string) httpapi.Problem {
	t.Helper()
	assert.Contains(t, res.Header.Get("Content-Type"), "application/problem+json")
	var p httpapi.Problem
	require.NoError(t, json.Unmarshal([]byte(body), &p), body)
	assert.Equal(t, res.StatusCode, p.Status)
	assert.NotEmpty(t, p.RequestID)
	return p
}
