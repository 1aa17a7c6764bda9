package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/valyala/fasthttp"

	"handwerk/e2e"
)

// hand is somebody signed in, on connections of his own.
type hand struct {
	base, cookie, csrf string
	client             *http.Client
	quick              *fasthttp.Client
}

// withRebuild is the lead, signed in, with a rebuild opened anew.
func (a *attack) withRebuild() (h *hand, id string, err error) {
	if h, err = a.signIn("ilva"); err != nil {
		return nil, "", err
	}
	id, err = h.open()
	return h, id, err
}

func (a *attack) signIn(login string) (*hand, error) {
	h := &hand{
		base: a.Base, client: &http.Client{Timeout: 30 * time.Second,
			Transport: &http.Transport{MaxIdleConnsPerHost: 128}},
		quick: &fasthttp.Client{},
	}
	res, body, err := h.send(http.MethodPost, "/api/v1/session",
		fmt.Sprintf(`{"login":%q,"password":%q}`, login, e2e.Password), "")
	if err != nil {
		return nil, err
	}
	if res.StatusCode != http.StatusOK {
		return nil, fmt.Errorf("signing in: %s", body)
	}
	for _, c := range res.Cookies() {
		if c.Name == "handwerk_session" {
			h.cookie = c.Name + "=" + c.Value
		}
	}
	var session struct {
		CSRF string `json:"csrf"`
	}
	if err := json.Unmarshal(body, &session); err != nil {
		return nil, err
	}
	h.csrf = session.CSRF
	return h, nil
}

var keys atomic.Int64

func newKey() string { return fmt.Sprintf("attack-%d-%d", os.Getpid(), keys.Add(1)) }

func (h *hand) send(method, path, body, key string) (*http.Response, []byte, error) {
	req, err := http.NewRequest(method, h.base+path, strings.NewReader(body))
	if err != nil {
		return nil, nil, err
	}
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("Cookie", h.cookie)
	req.Header.Set("X-CSRF-Token", h.csrf)
	if key != "" {
		req.Header.Set("Idempotency-Key", key)
	}
	res, err := h.client.Do(req)
	if err != nil {
		return nil, nil, err
	}
	defer func() { _ = res.Body.Close() }()
	raw, err := io.ReadAll(res.Body)
	return res, raw, err
}

// note writes one line at the first step and gives the status. It is the
// entry that is counted, on the machine that serves it: this client takes as
// little of that machine as pgbench does.
func (h *hand) note(rebuild, key string) (int, error) {
	req, res := fasthttp.AcquireRequest(), fasthttp.AcquireResponse()
	defer fasthttp.ReleaseRequest(req)
	defer fasthttp.ReleaseResponse(res)
	req.SetRequestURI(h.base + "/api/v1/rebuilds/" + rebuild + "/steps/identify/entries")
	req.Header.SetMethod(http.MethodPost)
	req.Header.SetContentType("application/json")
	req.Header.Set("Cookie", h.cookie)
	req.Header.Set("X-CSRF-Token", h.csrf)
	req.Header.Set("Idempotency-Key", key)
	req.SetBodyString(`{"act":"note","note":"one more line"}`)
	if err := h.quick.DoTimeout(req, res, 30*time.Second); err != nil {
		return 0, err
	}
	return res.StatusCode(), nil
}

// photograph keeps one large picture of noise, which packs badly.
func (h *hand) photograph(rebuild string) error {
	img := image.NewRGBA(image.Rect(0, 0, 1600, 1600))
	random := rand.NewChaCha8([32]byte{1})
	_, _ = random.Read(img.Pix) // never fails
	for i := 3; i < len(img.Pix); i += 4 {
		img.Pix[i] = 255
	}
	var raw bytes.Buffer
	if err := jpeg.Encode(&raw, img, &jpeg.Options{Quality: 95}); err != nil {
		return err
	}
	res, said, err := h.send(http.MethodPost, "/api/v1/rebuilds/"+rebuild+"/photos", raw.String(), "")
	if err == nil && res.StatusCode != http.StatusCreated {
		err = fmt.Errorf("keeping a picture: %s", said)
	}
	return err
}

// download writes an answer to a file as it comes.
func (h *hand) download(path, file string) (int64, error) {
	req, err := http.NewRequest(http.MethodGet, h.base+path, nil)
	if err != nil {
		return 0, err
	}
	req.Header.Set("Cookie", h.cookie)
	res, err := (&http.Client{Timeout: 3 * time.Minute}).Do(req)
	if err != nil {
		return 0, err
	}
	defer func() { _ = res.Body.Close() }()
	f, err := os.Create(file)
	if err != nil {
		return 0, err
	}
	n, err := io.Copy(f, res.Body)
	return n, errors.Join(err, f.Close())
}

// open opens a rebuild of the demo's launch carrier.
func (h *hand) open() (string, error) {
	_, raw, err := h.send(http.MethodGet, "/api/v1/fleet", "", "")
	if err != nil {
		return "", err
	}
	var fleet struct {
		Vehicles []struct {
			ID    string
			Units []struct{ ID, Route string }
		}
	}
	if err := json.Unmarshal(raw, &fleet); err != nil {
		return "", err
	}
	for _, v := range fleet.Vehicles {
		for _, u := range v.Units {
			if u.Route != "transfer-case-dog" {
				continue
			}
			order := fmt.Sprintf(
				`{"vehicle":%q,"unit":%q,"complaint":"bangs","promised":%q}`, v.ID, u.ID,
				time.Now().AddDate(0, 0, 7).Format(time.DateOnly),
			)
			_, raw, err := h.send(http.MethodPost, "/api/v1/rebuilds", order, newKey())
			if err != nil {
				return "", err
			}
			var r struct{ ID string }
			err = json.Unmarshal(raw, &r)
			return r.ID, err
		}
	}
	return "", fmt.Errorf("the fleet has no unit for the route")
}

// watch reads the board every 20 ms until stop is closed and gives how long
// each took.
func (h *hand) watch(stop <-chan struct{}) <-chan []time.Duration {
	out := make(chan []time.Duration, 1)
	go func() {
		var times []time.Duration
		tick := time.NewTicker(20 * time.Millisecond)
		defer tick.Stop()
		for {
			select {
			case <-stop:
				out <- times
				return
			case <-tick.C:
				began := time.Now()
				if res, _, err := h.send(http.MethodGet, "/api/v1/board", "", ""); err == nil &&
					res.StatusCode == http.StatusOK {
					times = append(times, time.Since(began))
				} else {
					times = append(times, time.Minute) // no answer is the slowest
				}
			}
		}
	}()
	return out
}

func quantile(times []time.Duration, q float64) time.Duration {
	if len(times) == 0 {
		return 0
	}
	slices.Sort(times)
	return times[min(len(times)-1, int(q*float64(len(times))))]
}

// many runs n workers until stop is closed.
func many(n int, stop <-chan struct{}, work func(worker int)) *sync.WaitGroup {
	var wg sync.WaitGroup
	for i := range n {
		wg.Add(1)
		go func() {
			defer wg.Done()
			for {
				select {
				case <-stop:
					return
				default:
					work(i)
				}
			}
		}()
	}
	return &wg
}

// residentMB reads what the program holds in memory.
func (a *attack) residentMB() float64 {
	raw, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", a.Pid()))
	if err != nil {
		return 0
	}
	for line := range bytes.Lines(raw) {
		if kb, ok := bytes.CutPrefix(line, []byte("VmRSS:")); ok {
			n, _ := strconv.Atoi(string(bytes.Fields(kb)[0]))
			return float64(n) / 1024
		}
	}
	return 0
}

// dial writes a request by hand and waits for the head of the answer.
func (a *attack) dial(head string) error {
	conn, err := net.Dial("tcp", strings.TrimPrefix(a.Base, "http://"))
	if err != nil {
		return err
	}
	defer func() { _ = conn.Close() }()
	_ = conn.SetDeadline(time.Now().Add(10 * time.Second))
	if _, err := io.WriteString(conn, strings.ReplaceAll(head, "\n", "\r\n")+"\r\n\r\n"); err != nil {
		return err
	}
	_, err = conn.Read(make([]byte, 512))
	return err
}
