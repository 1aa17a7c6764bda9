package httpapi

import (
	"net/http"
	"reflect"

	"github.com/gofiber/fiber/v3"

	"handwerk/core/fault"
	"handwerk/core/strict"
	"handwerk/workshop"
)

// access says who may call an endpoint; finer rules are in workshop.
type access int

const (
	anyone access = iota
	signedIn
)

// endpoint is one operation: its route, its types for OpenAPI, its handler.
type endpoint struct {
	method, path, id, summary string
	access                    access
	in, out                   any
	status                    int
	contentType               string // of the answer, when it is not JSON
	serve                     fiber.Handler
}

// call is a request on its way: who asks, and the typed input is read.
type call struct {
	fiber.Ctx
	session workshop.Session
}

func (c call) person() workshop.Person { return c.session.Person }

// nothing is the input of endpoints without parameters, the output of those
// that answer 204.
type nothing struct{}

// get and post make typed endpoints. Path and query parameters are fields
// tagged path and query, the body those tagged json.
func get[In, Out any](a *api, path, id, summary string, who access, f func(call, In) (Out, error)) endpoint {
	return typed(a, http.MethodGet, path, id, summary, who, http.StatusOK, f)
}

func post[In, Out any](a *api, path, id, summary string, who access, status int, f func(call, In) (Out, error)) endpoint {
	return typed(a, http.MethodPost, path, id, summary, who, status, f)
}

func typed[In, Out any](a *api, method, path, id, summary string, who access, status int, f func(call, In) (Out, error)) endpoint {
	var in In
	var out Out
	e := endpoint{method: method, path: path, id: id, summary: summary, access: who, in: in, out: out, status: status}
	e.serve = func(fc fiber.Ctx) error {
		c, err := a.admit(fc, e)
		if err != nil {
			return err
		}
		var in In
		if err := readInput(fc, &in); err != nil {
			return err
		}
		out, err := f(c, in)
		if err != nil {
			return err
		}
		if status == http.StatusNoContent {
			return fc.SendStatus(status)
		}
		if fc.Response().StatusCode() == http.StatusOK {
			fc.Status(status)
		}
		return fc.JSON(out)
	}
	return e
}

// raw makes an endpoint that writes its own answer (a file, a stream).
func raw[In any](a *api, method, path, id, summary, contentType string, who access, f func(call, In) error) endpoint {
	var in In
	e := endpoint{method: method, path: path, id: id, summary: summary, access: who, in: in, status: http.StatusOK, contentType: contentType}
	e.serve = func(fc fiber.Ctx) error {
		c, err := a.admit(fc, e)
		if err != nil {
			return err
		}
		var in In
		if err := readInput(fc, &in); err != nil {
			return err
		}
		return f(c, in)
	}
	return e
}

// readInput fills path and query parameters and the JSON body.
func readInput(c fiber.Ctx, into any) error {
	v := reflect.ValueOf(into).Elem()
	hasBody := false
	for _, f := range reflect.VisibleFields(v.Type()) {
		switch {
		case f.Tag.Get("path") != "":
			v.FieldByIndex(f.Index).SetString(c.Params(f.Tag.Get("path")))
		case f.Tag.Get("query") != "":
			v.FieldByIndex(f.Index).SetString(c.Query(f.Tag.Get("query")))
		case f.Tag.Get("json") != "":
			hasBody = true
		}
	}
	if !hasBody {
		return nil
	}
	if mediaType(c) != fiber.MIMEApplicationJSON {
		return problem(http.StatusUnsupportedMediaType, "Not JSON", "Send the body as application/json.")
	}
	if len(c.Body()) > maxJSON {
		return problem(http.StatusRequestEntityTooLarge, "Too large", "The body may hold 1 MB.")
	}
	return strict.Decode(c.Body(), into)
}

// key reads the idempotency key that every write carries.
func (c call) key() (string, error) {
	key := c.Get("Idempotency-Key")
	if len(key) < 8 || len(key) > 100 {
		return "", fault.At("Idempotency-Key", "a header of 8 to 100 characters, new for each entry", "missing or of the wrong length")
	}
	return key, nil
}
