package e2e

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/go-rod/rod"

	"handwerk/workshop"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// What a person reads and says beside the screen, in the session of its page: what a
// test only has to have behind it costs the browser nothing.

// Session is somebody's session at a server, beside the page it was begun in.
type Session struct {
	page *rod.Page
	base string
	ends func(any) // the test, with what went wrong
}

// fail ends the test with what the page says meanwhile.
func (p Session) fail(what string, err error) {
	said := p.page.MustEval(`() => document.body.innerText`).String()
	picture := filepath.Join(os.TempDir(), "handwerk-e2e-failed.png")
	if raw, err := p.page.Screenshot(false, nil); err == nil {
		_ = os.WriteFile(picture, raw, 0o600)
	}
	p.ends(fmt.Sprintf("%s did not come (%v); see %s. The page says:\n%s", what, err, picture, said))
}

// asks calls the server as the page would.
func (p Session) asks(method, path string, body any) (string, error) {
	raw, err := json.Marshal(body)
	if err != nil {
		return "", err
	}
	req, err := http.NewRequest(method, p.base+path, strings.NewReader(string(raw)))
	if err != nil {
		return "", err
	}
	cookies, err := p.page.Cookies([]string{p.base})
	if err != nil {
		return "", err
	}
	for _, c := range cookies {
		req.AddCookie(&http.Cookie{Name: c.Name, Value: c.Value})
	}
	if method != http.MethodGet {
		var session struct{ CSRF string }
		p.read200("/api/v1/session", &session)
		req.Header.Set("Content-Type", "application/json")
		req.Header.Set("X-CSRF-Token", session.CSRF)
		req.Header.Set("Idempotency-Key", say.NewID())
	}
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return "", err
	}
	said, err := io.ReadAll(res.Body)
	if res.StatusCode >= http.StatusBadRequest {
		err = errors.Join(err, fmt.Errorf("%s: %s", res.Status, said))
	}
	return string(said), errors.Join(err, res.Body.Close())
}

func (p Session) fetch(path string) string {
	said, err := p.asks(http.MethodGet, path, nil)
	if err != nil {
		p.fail(path, err)
	}
	return said
}

func (p Session) read200(path string, into any) {
	if err := json.Unmarshal([]byte(p.fetch(path)), into); err != nil {
		p.fail(path, err)
	}
}

// sheetOf is a rebuild with where each of its steps stands.
func (p Session) sheetOf(rebuild string) (sheet record.Sheet) {
	p.read200("/api/v1"+rebuild, &sheet)
	return sheet
}

func (p Session) step(rebuild, step string) record.StepView {
	view, err := kinds.ReadStepView([]byte(p.fetch("/api/v1" + rebuild + "/steps/" + step)))
	if err != nil {
		p.fail("the step "+step, err)
	}
	return view
}

// says makes an entry as a page does.
func (p Session) says(rebuild, step string, d record.Draft) {
	if _, err := p.asks(http.MethodPost, "/api/v1"+rebuild+"/steps/"+step+"/entries", d); err != nil {
		p.fail(fmt.Sprintf("%s: %s of %s", step, d.Says.Name(), d.Item), err)
	}
}

// rest puts on record what is plain until a step is the next to be worked on.
func (p Session) rest(rebuild, until string) {
	for range 200 {
		steps := p.sheetOf(rebuild).Steps
		i := slices.IndexFunc(steps, func(s record.StepStatus) bool { return s.Status == record.Open })
		if i < 0 || steps[i].ID == until {
			return
		}
		p.says(rebuild, steps[i].ID, kinds.Plausible(p.step(rebuild, steps[i].ID)))
	}
	p.fail("the way to "+until, errors.New("it does not end"))
}

// readFirst acknowledges the cautions of a step, and of lines that are answered there.
func (p Session) readFirst(rebuild, step string, lines ...string) {
	for _, line := range append(lines, "") {
		item, _, _ := strings.Cut(line, "=")
		for {
			d := record.Draft{Item: record.ReadPlace(item), Says: &acts.Outcome{}}
			caution, waits := kinds.Acknowledging(p.step(rebuild, step), d)
			if !waits {
				break
			}
			p.says(rebuild, step, caution)
		}
	}
}

// newRebuildOf opens a rebuild of the demo's unit that goes by a route.
func (p Session) newRebuildOf(route string) string {
	var fleet struct{ Vehicles []shop.Vehicle }
	p.read200("/api/v1/fleet", &fleet)
	for _, v := range fleet.Vehicles {
		for _, u := range v.Units {
			if u.Route == route {
				return p.opensFor(v.ID, u.ID)
			}
		}
	}
	p.fail(route, errors.New("no unit of the demo goes by it"))
	return ""
}

func (p Session) opensFor(vehicle, unit string) string {
	var opened struct{ ID string }
	said, err := p.asks(http.MethodPost, "/api/v1/rebuilds", workshop.Order{
		Vehicle: vehicle, Unit: unit, Complaint: "Refuses first and second standing.",
		Promised: time.Now().AddDate(0, 0, 7).Format(time.DateOnly),
	})
	if err == nil {
		err = json.Unmarshal([]byte(said), &opened)
	}
	if err != nil {
		p.fail("a rebuild of "+unit, err)
	}
	return "/rebuilds/" + opened.ID
}
