package e2e

import (
	"maps"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/acts"
	"handwerk/workshop/record"
)

// slow stands before a program and gives each answer to an entry late.
func slow(t *testing.T, p *Program, by time.Duration) string {
	t.Helper()
	to, err := url.Parse(p.Base)
	require.NoError(t, err)
	line := httputil.NewSingleHostReverseProxy(to)
	line.FlushInterval = -1
	line.ModifyResponse = func(r *http.Response) error {
		if strings.HasSuffix(r.Request.URL.Path, "/entries") {
			time.Sleep(by)
		}
		return nil
	}
	server := httptest.NewServer(line)
	t.Cleanup(func() {
		_ = server.Listener.Close()
		server.CloseClientConnections() // streams that stay open
	})
	return server.URL
}

// hand types at twelve keys a second, whatever the screen does; a new line is Enter.
func (p *Person) hand(text string) {
	tick := time.NewTicker(time.Second / 12)
	defer tick.Stop()
	for _, r := range text {
		if r == '\n' {
			p.press(input.Enter)
		} else {
			p.press(input.Key(r))
		}
		<-tick.C
	}
}

// quick is one kind of step under a fast hand: what is typed there, and what the
// record then holds of it, in order.
type quick struct {
	route, step string
	unread      bool // its cautions are what is typed at
	types       string
	holds       []string
}

// A torque that is off its setting is one of them: it is kept as it was read.
var quicks = map[string]quick{
	"readings": {route: "transfer-case-dog", step: "end-float", types: "0.61 mm\n24.1 thou\n0.62\n0.61\n",
		holds: []string{"1.1 0.61 mm", "1.2 24.1 thou", "1.3 0.62 mm", "1.4 0.61 mm"}},
	"rounds at their places": {route: "gearbox-longitudinal", step: "housing",
		types: "0\n7 thou\n14 thou\n0.18\n0\n0\n7 thou\n14 thou\n0.18\n",
		holds: []string{
			"1.at-12 0 mm", "1.at-3 7 thou", "1.at-6 14 thou", "1.at-9 0.18 mm", "1.back-12 0 mm", "1.again-3 0 mm",
			"1.again-6 7 thou", "1.again-9 14 thou", "1.again-12 0.18 mm",
		}},
	"lines of a check": {
		route: "clutch-hydraulic", step: "identify", types: "111",
		holds: []string{"serial done", "driven driven", "earlier-repair none"},
	},
	"cautions": {route: "transfer-case-dog", step: "make-safe", unread: true, types: "aa",
		holds: []string{"under-vehicle", "tipping"}},
	"parts off": {
		route: "transfer-case-dog", step: "strip-cover", types: "tA1\ntA2\nvtB1\n",
		holds: []string{"nut removed A1", "flange removed A2", "seal not-found", "cover removed B1"},
	},
	"verdicts": {
		route: "transfer-case-dog", step: "cover-parts", types: "31tscored\n31",
		holds: []string{"nut replace", "flange reuse", "seal replace scored", "cover reuse"},
	},
	"parts in": {
		route: "transfer-case-dog", step: "build", types: "ffff",
		holds: []string{"shaft fitted", "rollers fitted", "gear fitted", "washer fitted"},
	},
	"every gear": {route: "gearbox-longitudinal", step: "shift-before", types: "iixxsc",
		holds: []string{
			"1.gear-1-engine-off in", "1.gear-2-engine-off in", "1.gear-3-engine-off refuses",
			"1.gear-4-engine-off refuses", "1.gear-5-engine-off stiff", "1.gear-r-engine-off crunches",
		}},
	"bolts": {route: "transfer-case-dog", step: "cover-bolts",
		types: "17 lb-ft\n18 lb-ft\n17.5 lb-ft\n17 lb-ft\n18 lb-ft\n17 lb-ft\n18 lb-ft\n17 lb-ft\n35 lb-ft\n",
		holds: []string{
			"p1.b1 17 lb-ft", "p1.b5 18 lb-ft", "p1.b3 17.5 lb-ft", "p1.b7 17 lb-ft", "p1.b2 18 lb-ft",
			"p1.b6 17 lb-ft", "p1.b4 18 lb-ft", "p1.b8 17 lb-ft", "p2.b1 35 lb-ft",
		}},
	"tests": {route: "transfer-case-dog", step: "drive-before", types: "11211",
		holds: []string{"driven driven", "cold-warm quiet", "noise-drive slight", "noise-coast none",
			"noise-float none"}},
	"a clock": {route: "transfer-case-dog", step: "sealant", types: "ff", holds: []string{"snug-wait"}},
	"a fill":  {route: "transfer-case-dog", step: "fill-in", types: "2.4\n", holds: []string{"2.4 L gl4-80"}},
	"no picture": {route: "transfer-case-dog", step: "arrival-photo", types: "\tgone home, rain\n",
		holds: []string{"gone home, rain"}},
	"a decision": {route: "transfer-case-dog", step: "way", types: "1f", holds: []string{"rebuild"}},
}

// What a fast hand types is on record as it was typed, in order, however late
// the answers are: every kind of step on a slow line, some on a quick and a bad one.
func TestAFastHandLosesNothing(t *testing.T) {
	t.Parallel()
	p := demo(t)
	for late, some := range map[time.Duration][]string{
		0:                       {"readings", "parts off", "every gear"},
		300 * time.Millisecond:  slices.Collect(maps.Keys(quicks)),
		1500 * time.Millisecond: {"readings", "rounds at their places", "bolts", "tests"},
	} {
		t.Run(late.String(), func(t *testing.T) {
			t.Parallel() // it mostly waits
			base := slow(t, p, late)
			odo := signIn(t, base, "odo")
			earlier := at(odo.Page, p.Base, odo.ends) // what comes before is no matter of the line
			for _, name := range some {
				t.Run(name, func(t *testing.T) { quicks[name].under(t, odo, earlier) })
			}
		})
	}
}

// under types at a rebuild that somebody brought to the step.
func (q quick) under(t *testing.T, odo, earlier *Person) {
	rebuild := earlier.newRebuildOf(q.route)
	earlier.rest(rebuild, q.step)
	if !q.unread {
		earlier.readFirst(rebuild, q.step)
	}
	odo.Go(rebuild + "/" + q.step)
	odo.handThere()
	before := len(earlier.step(rebuild, q.step).Frame().Entries)
	odo.hand(q.types)
	earlier.settled(rebuild, q.step, before+len(q.holds))
	said := []string{}
	for _, e := range earlier.step(rebuild, q.step).Frame().Entries[before:] {
		said = append(said, told(e))
	}
	if !assert.Equal(t, q.holds, said) {
		t.Log(
			odo.MustEval(
				`() => document.querySelector('main').innerText + [...document.querySelectorAll('[role=status], [role=alert]')].map(e => '\n>' + e.innerText).join('')`,
			).String(),
		)
	}
}

// told is what an entry holds of what was typed.
func told(e record.EntryView) string {
	said, typed, tray := e.ReadAct(), "", record.As[acts.Removed](&e.Entry).Tray
	if m := acts.ValueOf(said); m != nil {
		typed = m.Typed
	}
	return strings.Join(
		slices.DeleteFunc(
			[]string{e.Item.String(), typed, acts.OutcomeOf(said), acts.Reason(said), acts.NoteOf(said), tray},
			func(s string) bool { return s == "" },
		),
		" ",
	)
}

// settled waits until a step has so many entries, or no more come.
func (p *Person) settled(rebuild, step string, n int) {
	last := time.Now()
	for had := -1; time.Since(last) < 8*time.Second; time.Sleep(100 * time.Millisecond) {
		now := len(p.step(rebuild, step).Frame().Entries)
		if now != had {
			had, last = now, time.Now()
		}
		if now >= n && time.Since(last) > time.Second {
			return
		}
	}
}
