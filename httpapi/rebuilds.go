package httpapi

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/httpapi/news"
	"handwerk/workshop"
	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/kinds"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

type boardIn struct {
	Closed string `query:"closed" enum:"true,false" description:"handed over, instead of in the house"`
	After  string `query:"after" description:"what an answer before gave as next"`
}

// BoardView lists rebuilds with the titles of the stations they stand at.
type BoardView struct {
	Stations []StationName    `json:"stations"`
	Rebuilds []record.Rebuild `json:"rebuilds"`
	Next     string           `json:"next,omitempty"`   // where the list goes on, when it does
	Notice   string           `json:"notice,omitempty"` // what everybody must know now
}

// StationName is a station with its title.
type StationName struct {
	ID    book.StationID `json:"id"`
	Title string         `json:"title"`
}

// fleetView are the vehicles with their units.
type fleetView struct {
	Vehicles []shop.Vehicle `json:"vehicles"`
	More     bool           `json:"more,omitempty"`
}

type rebuildIn struct {
	ID string `path:"id"`
}

type promiseIn struct {
	ID  string `path:"id"`
	Way string `query:"way" description:"the way that is weighed; empty is the one that was taken"`
}

type stepIn struct {
	ID   string `path:"id"`
	Step string `path:"step"`
}

// draftIn is an entry as it is sent.
type draftIn struct {
	ID   string `path:"id"`
	Step string `path:"step"`
	record.Draft
}

type planIn struct {
	Hash string `path:"hash"`
}

const boardLimit = 200

// stepAnswer is a step as its kind shows it.
type stepAnswer struct{ record.StepView }

// MarshalJSON writes the view of the kind.
func (s stepAnswer) MarshalJSON() ([]byte, error) { return json.Marshal(s.StepView) }

// JSONSchemaOneOf lists what it may be.
func (stepAnswer) JSONSchemaOneOf() []any {
	var all []any
	for _, v := range kinds.StepViews() {
		all = append(all, v)
	}
	return all
}

func (a rebuildDesk) rebuildEndpoints() []endpoint {
	return []endpoint{
		get(a.api, "/board", "board", "rebuilds by station, earliest promise first", signedIn, a.board),
		get(a.api, "/fleet", "fleet", "vehicles with the units that can come out of them", signedIn,
			func(c call, _ nothing) (fleetView, error) {
				fleet, more, err := a.Workshop.Fleet.List(c.Context())
				return fleetView{fleet, more}, err
			}),
		typed(a.api, endpoint{
			method: http.MethodPost, path: "/rebuilds", id: "openRebuild",
			summary: "open a rebuild; the route is copied from the book",
			access:  hands, status: http.StatusCreated, keyed: true,
		}, a.open),
		get(a.api, "/rebuilds/:id", "sheet", "a rebuild: the order, and where each step stands", signedIn, func(
			c call, in rebuildIn,
		) (record.Sheet, error) {
			return a.Workshop.Sheet(c.Context(), in.ID)
		}),
		get(a.api, "/rebuilds/:id/promise", "promise",
			"the day that the person asking can promise, going a way, and what it rests on", signedIn, func(
				c call, in promiseIn,
			) (buying.PromiseView, error) {
				return a.Workshop.Promise(c.Context(), in.ID, in.Way, c.person())
			}),
		get(a.api, "/plans/:hash", "plan", "a rebuild's copy of the book; it never changes", signedIn, a.plan),
		get(a.api, "/rebuilds/:id/steps/:step", "step", "one step as the bench shows it", signedIn,
			func(c call, in stepIn) (stepAnswer, error) {
				view, err := a.Workshop.Step(c.Context(), in.ID, in.Step, c.person())
				return stepAnswer{view}, err
			}),
		typed(a.api, endpoint{
			method: http.MethodPost, path: "/rebuilds/:id/steps/:step/entries", id: "append", summary: "write an entry",
			access: hands, status: http.StatusCreated, rechecks: true, keyed: true,
		}, a.append),
		post(a.api, "/rebuilds/:id/steps/:step/preview", "preview", "what an entry would mean; nothing is kept", hands,
			http.StatusOK, func(c call, in draftIn) (record.Entry, error) {
				return a.Workshop.Preview(c.Context(), in.ID, in.Step, in.Draft, c.person())
			}),
		raw(a.api, http.MethodGet, "/rebuilds/:id/events", "events", "a stream of new entries", "text/event-stream",
			signedIn, a.events),
		raw(a.api, http.MethodGet, "/board/events", "boardEvents", "a stream of changes on the board",
			"text/event-stream", signedIn, func(c call, _ nothing) error {
				return a.stream(c, news.Board)
			}),
	}
}

func (a rebuildDesk) board(c call, in boardIn) (BoardView, error) {
	view := BoardView{}
	for _, s := range book.StationNames() {
		view.Stations = append(view.Stations, StationName{s, book.StationTitle(s)})
	}
	if err := a.Ready(c.Context()); a.IsFull(err) {
		view.Notice = diskFull().Detail
	} else {
		view.Notice = a.faults(c)
	}
	query, err := in.query()
	if err != nil {
		return view, err
	}
	if view.Rebuilds, err = a.Workshop.Board(c.Context(), query); err != nil {
		return view, err
	}
	if len(view.Rebuilds) == boardLimit {
		last := view.Rebuilds[boardLimit-1]
		view.Next = last.Place.Promised + "/" + last.Number
	}
	return view, nil
}

// query reads what is asked for: open or closed ones, and after which.
func (in boardIn) query() (workshop.BoardQuery, error) {
	q := workshop.BoardQuery{Closed: in.Closed == "true", Limit: boardLimit}
	if in.Closed != "" && in.Closed != "true" && in.Closed != "false" {
		return q, input.At("closed", "true, false", "%q is neither", in.Closed)
	}
	if in.After == "" {
		return q, nil
	}
	promised, number, _ := strings.Cut(in.After, "/")
	if _, err := time.Parse(time.DateOnly, promised); err != nil || number == "" {
		return q, input.At("after", "what an answer before gave as next", "%q is no place in the list", in.After)
	}
	q.After = &workshop.BoardPlace{Promised: promised, Number: number}
	return q, nil
}

func (a rebuildDesk) open(c call, in workshop.Order) (record.Rebuild, error) {
	key, err := c.key()
	if err != nil {
		return record.Rebuild{}, err
	}
	r, replayed, err := a.Workshop.Open(c.Context(), in, c.person(), key)
	if replayed {
		c.replayed()
	}
	return r, err
}

func (a rebuildDesk) plan(c call, in planIn) (book.Copy, error) {
	p, err := a.Workshop.Plan(c.Context(), in.Hash)
	if err != nil {
		return book.Copy{}, err
	}
	c.Set(fiber.HeaderCacheControl, "private, max-age=31536000, immutable")
	return p.Copy, nil
}

// append answers 201 for a new entry, 200 for one that the same key made before.
// Written is an entry that was kept; for who prefers it, with how rebuild and
// step stand by now, so that a screen need not ask. A step with very many entries
// is left to be read.
type Written struct {
	record.Entry
	Now *Stands `json:"now,omitempty"`
}

// Stands is how rebuild and step stand once an entry is kept.
type Stands struct {
	Sheet record.Sheet `json:"sheet"`
	Step  *stepAnswer  `json:"step,omitempty"`
}

// preferNow asks for what stands with the answer. Source: RFC 7240, 4.2.
const preferNow = "return=representation"

// manyEntries are more than an answer carries along: no step of the book asks for as many, and writing them all out each
// time would cost more than keeping the entry.
const manyEntries = 40

func (a rebuildDesk) append(c call, in draftIn) (Written, error) {
	kept, err := a.appendEntry(c, in)
	out := Written{Entry: kept.Entry}
	if err != nil || c.Get("Prefer") != preferNow {
		return out, err
	}
	sheet, step, err := kept.Now(manyEntries)
	if err != nil {
		a.Log.Warn("an entry was kept, what follows from it could not be shown", "error", err.Error())
		return out, nil
	}
	out.Now = &Stands{Sheet: sheet}
	if step != nil {
		out.Now.Step = &stepAnswer{step}
	}
	return out, nil
}

func (a rebuildDesk) appendEntry(c call, in draftIn) (workshop.Kept, error) {
	key, err := c.key()
	if err != nil {
		return workshop.Kept{}, err
	}
	entry, replayed, err := a.Workshop.Append(c.Context(), c.asking(), in.ID, in.Step, in.Draft, c.person(), key)
	if refused(err, say.SignedOut) { // what was remembered of the session holds no more
		if c, err = a.admitAnew(c); err != nil {
			return workshop.Kept{}, err
		}
		entry, replayed, err = a.Workshop.Append(c.Context(), c.asking(), in.ID, in.Step, in.Draft, c.person(), key)
	}
	if refused(err, say.Unproved) { // whoever stands there says it anew: this session is over
		if _, err := a.Accounts.EndSession(c.Context(), c.person().Login, c.session.ID); err != nil {
			return workshop.Kept{}, err
		}
		a.sessions.Remove(c.session.Digest)
	}
	if replayed {
		c.replayed()
	} else if err == nil && entry.Is(acts.Override{}) {
		a.security(c, "gate overridden", "login", c.person().Login, "rebuild", in.ID, "step", in.Step)
	}
	return entry, err
}

func (a rebuildDesk) events(c call, in rebuildIn) error { return a.stream(c, in.ID) }

// stream tells of new entries.
func (a rebuildDesk) stream(c call, topic string) error {
	screen := a.Hub.Subscribe(topic, c.session.Digest)
	if screen == nil {
		return tooManyScreens()
	}
	stands := a.Hub.Stands()
	return a.sendEvents(c, eventStream{
		first: fmt.Sprintf("retry: 1000\nevent: stands\ndata: %s\n\n", stands),
		next: func(w io.Writer, beat <-chan time.Time) (bool, bool) {
			select {
			case e, ok := <-screen.Events:
				return ok && a.pass(w, screen, e), false
			case <-beat:
				return true, true
			}
		},
		leave: screen.Leave,
	})
}

// pass writes what else came with an event; false once the stream ends.
func (a rebuildDesk) pass(w io.Writer, screen *news.Screen, first news.Event) bool {
	gathered, more := screen.Gather(first, a.Hub.Pause())
	for _, e := range gathered {
		raw, _ := json.Marshal(e) // plain fields, cannot fail
		_, _ = fmt.Fprintf(w, "id: %s\ndata: %s\n\n", a.Hub.Stands(), raw)
	}
	return more
}
