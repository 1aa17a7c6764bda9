package httpapi

import (
	"cmp"
	"maps"
	"net/http"
	"reflect"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"handwerk/core/input"
	"handwerk/core/text"
	"handwerk/workshop"
	"handwerk/workshop/people"
)

// access says who may call an endpoint; finer rules are in workshop.
type access int

const (
	anyone access = iota
	signedIn
	hands // mechanics and leads
	leads
)

// endpoint is one operation: its route, its types for OpenAPI, its handler.
type endpoint struct {
	method, path, id, summary string
	access                    access
	in, out                   any
	status                    int
	limit                     int      // of the body; 0 is maxJSON
	rechecks                  bool     // what it writes is kept only if the session holds then
	keyed                     bool     // it carries an idempotency key: the same request twice is one write
	takes                     []string // media types of the body, when it is not JSON
	contentType               string   // of the answer, when it is not JSON
	serve                     fiber.Handler
}

// call is a request on its way: who asks, and the typed input is read.
type call struct {
	fiber.Ctx
	session people.Session
}

func (c call) person() people.Person { return c.session.Person }

func (c call) asking() workshop.Asking {
	return workshop.Asking{Session: c.session.Digest, Since: c.session.Started}
}

// replayed says that the answer was given before, to the same request.
func (c call) replayed() { c.Set(replayHeader, "true") }

const replayHeader = "Idempotent-Replay"

// standsHeader says how far the news had been told when an answer was read.
const standsHeader = "Handwerk-Stands"

// nothing is the input of endpoints without parameters, the output of those
// that answer 204.
type nothing struct{}

// get and post make typed endpoints. Path and query parameters are fields
// tagged path and query, the body those tagged json.
func get[In, Out any](a *api, path, id, summary string, who access, f func(call, In) (Out, error)) endpoint {
	return typed(a, endpoint{method: http.MethodGet, path: path, id: id, summary: summary, access: who,
		status: http.StatusOK}, f)
}

func post[In, Out any](a *api, path, id, summary string, who access, status int,
	f func(call, In) (Out, error)) endpoint {
	return typed(a, endpoint{method: http.MethodPost, path: path, id: id, summary: summary, access: who,
		status: status}, f)
}

func typed[In, Out any](a *api, e endpoint, f func(call, In) (Out, error)) endpoint {
	var in In
	var out Out
	e.in, e.out = in, out
	if e.limit == 0 {
		e.limit = maxJSON
	}
	fields := inputOf(in)
	e.serve = func(fc fiber.Ctx) error {
		c, err := a.admit(fc, e)
		if err != nil {
			return err
		}
		fc.Set(standsHeader, a.Hub.Stands()) // before anything is read
		var in In
		if err := readInput(fc, &in, fields, e.limit); err != nil {
			return err
		}
		out, err := f(c, in)
		if faults, bad := err.(input.Fields); bad { // not what is garbled, which holds some
			return faults.InOrder(reflect.TypeFor[In]())
		}
		if err != nil {
			return err
		}
		if e.status == http.StatusNoContent {
			return fc.SendStatus(e.status)
		}
		if fc.GetRespHeader(replayHeader) == "" { // a replay makes nothing
			fc.Status(e.status)
		}
		return fc.JSON(out)
	}
	return e
}

// raw makes an endpoint that writes its own answer (a file, a stream).
func raw[In any](a *api, method, path, id, summary, contentType string, who access, f func(call, In) error) endpoint {
	var in In
	e := endpoint{method: method, path: path, id: id, summary: summary, access: who, in: in, status: http.StatusOK,
		contentType: contentType}
	fields := inputOf(in)
	e.serve = func(fc fiber.Ctx) error {
		c, err := a.admit(fc, e)
		if err != nil {
			return err
		}
		var in In
		if err := readInput(fc, &in, fields, maxJSON); err != nil {
			return err
		}
		return f(c, in)
	}
	return e
}

// giving says what an endpoint that writes its own answer gives.
func giving(out any, e endpoint) endpoint {
	e.out = out
	return e
}

// fieldsFrom says where the fields of an endpoint's input come from.
type fieldsFrom struct {
	params  []param
	hasBody bool
}

type param struct {
	name  string
	query bool
	index []int
}

func inputOf(in any) fieldsFrom {
	var out fieldsFrom
	for _, f := range reflect.VisibleFields(reflect.TypeOf(in)) {
		path, query := f.Tag.Get("path"), f.Tag.Get("query")
		switch {
		case path != "":
			out.params = append(out.params, param{path, false, f.Index})
		case query != "":
			out.params = append(out.params, param{query, true, f.Index})
		case f.Tag.Get("json") != "":
			out.hasBody = true
		}
	}
	return out
}

// readInput fills path and query parameters and the JSON body.
func readInput(c fiber.Ctx, into any, fields fieldsFrom, limit int) error {
	if err := fields.onlyKnown(c); err != nil {
		return err
	}
	if fields.hasBody {
		raw, err := jsonBody(c, limit)
		if err != nil {
			return err
		}
		if err := input.Decode(raw, into); err != nil {
			return err
		}
	}
	v := reflect.ValueOf(into).Elem()
	for _, p := range fields.params {
		said := c.Params(p.name)
		if p.query {
			said = c.Query(p.name)
		}
		if problem := text.Bad(said); problem != "" {
			return input.Garbled{Fields: input.At(p.name, text.Accepted, "%s", problem)}
		}
		v.FieldByIndex(p.index).SetString(strings.Clone(said)) // the request's memory is used again
	}
	return nil
}

// onlyKnown refuses query values that nobody reads: a slip in a name would be a
// wish not granted, in silence.
func (f fieldsFrom) onlyKnown(c fiber.Ctx) error {
	var names []string
	for _, p := range f.params {
		if p.query {
			names = append(names, p.name)
		}
	}
	var faults input.Fields
	for _, name := range slices.Sorted(maps.Keys(c.Queries())) {
		if !slices.Contains(names, name) {
			faults.Add(name, cmp.Or(strings.Join(names, ", "), "no query at all"), "it is not known here")
		}
	}
	return faults.Err()
}

func jsonBody(c fiber.Ctx, limit int) ([]byte, error) {
	if mediaType(c) != fiber.MIMEApplicationJSON {
		return nil, problem(http.StatusUnsupportedMediaType, "Not JSON", "Send the body as application/json.")
	}
	return body(c, limit)
}

// key reads the idempotency key that every write carries.
func (c call) key() (string, error) {
	key := c.Get("Idempotency-Key")
	for _, b := range []byte(key) {
		if b < ' ' || b > '~' {
			return "", input.Garbled{Fields: input.At("Idempotency-Key", "letters, digits and ordinary signs",
				"it contains a character that is not allowed")}
		}
	}
	if len(key) < 8 || len(key) > 100 {
		return "", input.At("Idempotency-Key", "a header of 8 to 100 characters, new for each entry",
			"missing or of the wrong length")
	}
	return key, nil
}
