package httpapi

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/requestid"

	"handwerk/core/input"
	"handwerk/workshop/say"
)

// Problem is the body of every error, as RFC 9457 asks (problem+json).
type Problem struct {
	Type      string        `json:"type"`
	Title     string        `json:"title"`
	Status    int           `json:"status"`
	Detail    string        `json:"detail,omitempty"`
	Fields    []input.Field `json:"fields,omitempty"`
	RequestID string        `json:"request_id,omitempty"`

	// RetryAfter is when it is worth trying again, in seconds; sent as a header.
	RetryAfter int `json:"-"`
}

func (p Problem) Error() string { return fmt.Sprintf("%d %s: %s", p.Status, p.Title, p.Detail) }

func problem(status int, title, detail string) Problem {
	return Problem{Type: "about:blank", Title: title, Status: status, Detail: detail}
}

func asProblem(err error, into *Problem) bool { return errors.As(err, into) }

func tooLarge(limit int) Problem {
	said := fmt.Sprintf("At most %d MB can be sent here.", limit>>20)
	switch {
	case limit < 1<<20:
		said = fmt.Sprintf("At most %d kB can be sent here.", limit>>10)
	case limit > maxJSON:
		said = fmt.Sprintf("The picture is over %d MB. Take a smaller one.", limit>>20)
	}
	return problem(http.StatusRequestEntityTooLarge, "Too large", said)
}

func diskFull() Problem {
	p := problem(
		http.StatusServiceUnavailable,
		"The disk is full",
		"The server's disk is full, so nothing can be saved. What you entered is safe; it is sent as soon as there is space.",
	)
	p.RetryAfter = 15
	return p
}

var statusOf = map[say.Reason]int{
	say.NotFound:   http.StatusNotFound,
	say.Forbidden:  http.StatusForbidden,
	say.Unproved:   http.StatusUnauthorized,
	say.GateClosed: http.StatusConflict,
	say.Conflict:   http.StatusConflict,
}

// onError turns typed errors into problems. Anything else is logged with the
// request's id, and the client learns only that id.
func (a *api) onError(c fiber.Ctx, err error) error {
	p := a.problemOf(c, err)
	p.RequestID = requestid.FromContext(c)
	if p.RetryAfter == 0 && (p.Status == http.StatusTooManyRequests || p.Status == http.StatusServiceUnavailable) {
		p.RetryAfter = 5
	}
	if p.RetryAfter > 0 {
		c.Set(fiber.HeaderRetryAfter, strconv.Itoa(p.RetryAfter))
	}
	c.Status(p.Status)
	return c.JSON(p, "application/problem+json")
}

func (a *api) problemOf(c fiber.Ctx, err error) Problem {
	var p Problem
	var garbled input.Garbled
	var fields input.Fields
	var refusal say.Refusal
	var fiberError *fiber.Error
	switch {
	case errors.As(err, &p):
		return p
	case a.IsFull(err):
		a.Log.Error("the disk of the database is full", "request_id", requestid.FromContext(c))
		return diskFull()
	case a.IsLost(err): // before all that might speak of fields: nobody typed anything wrong
		a.Log.Warn("database lost", "request_id", requestid.FromContext(c), "error", err.Error())
		return problem(http.StatusServiceUnavailable, "The database cannot be reached",
			"Nothing was saved. What you typed is still here; try again in a moment.")
	case errors.As(err, &garbled):
		return fieldProblem(http.StatusBadRequest, "This could not be read", garbled.Fields)
	case errors.As(err, &fields):
		return fieldProblem(http.StatusUnprocessableEntity, "Please check the entries below", fields)
	case errors.As(err, &refusal) && refusal.Reason == say.SignedOut:
		return ranOut()
	case errors.As(err, &refusal):
		return problem(statusOf[refusal.Reason], "Not possible now", refusal.Error())
	case errors.As(err, &fiberError) && fiberError.Code < 500:
		return problem(fiberError.Code, http.StatusText(fiberError.Code), "")
	}
	a.Log.Error("request failed", "request_id", requestid.FromContext(c), "method", c.Method(), "path", c.Path(),
		"error", err.Error())
	return problem(http.StatusInternalServerError, "Something went wrong",
		"Quote the report number below when you ask for help.")
}

func fieldProblem(status int, title string, fields input.Fields) Problem {
	p := problem(status, title, fields[0].Error())
	p.Fields = fields[:min(len(fields), input.Most)]
	return p
}

// sentence is an error's text as a person reads it.
func sentence(err error) string {
	said := err.Error()
	return strings.ToUpper(said[:1]) + said[1:] + "."
}

// anew is a context with a time of its own.
func anew(d time.Duration) (context.Context, context.CancelFunc) {
	return context.WithTimeout(context.Background(), d)
}
