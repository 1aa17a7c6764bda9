package httpapi

import (
	"errors"
	"fmt"
	"net/http"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/requestid"

	"handwerk/core/fault"
	"handwerk/workshop"
)

// Problem is the body of every error, as RFC 9457 asks (problem+json).
type Problem struct {
	Type      string        `json:"type"`
	Title     string        `json:"title"`
	Status    int           `json:"status"`
	Detail    string        `json:"detail,omitempty"`
	Fields    []fault.Field `json:"fields,omitempty"`
	RequestID string        `json:"request_id,omitempty"`
}

func (p Problem) Error() string { return fmt.Sprintf("%d %s: %s", p.Status, p.Title, p.Detail) }

func problem(status int, title, detail string) Problem {
	return Problem{Type: "about:blank", Title: title, Status: status, Detail: detail}
}

var statusOf = map[workshop.Reason]int{
	workshop.NotFound:   http.StatusNotFound,
	workshop.Forbidden:  http.StatusForbidden,
	workshop.GateClosed: http.StatusConflict,
	workshop.Conflict:   http.StatusConflict,
}

// onError turns typed errors into problems. Anything else is logged with the
// request's id, and the client learns only that id.
func (a *api) onError(c fiber.Ctx, err error) error {
	p := a.problemOf(c, err)
	p.RequestID = requestid.FromContext(c)
	if p.Status == http.StatusTooManyRequests || p.Status == http.StatusServiceUnavailable {
		c.Set(fiber.HeaderRetryAfter, "5")
	}
	c.Status(p.Status)
	return c.JSON(p, "application/problem+json")
}

func (a *api) problemOf(c fiber.Ctx, err error) Problem {
	var p Problem
	var fields fault.Fields
	var refusal workshop.Refusal
	var fiberError *fiber.Error
	switch {
	case errors.As(err, &p):
		return p
	case errors.As(err, &fields):
		p = problem(http.StatusUnprocessableEntity, "Something does not fit", fields[0].Error())
		p.Fields = fields
		return p
	case errors.As(err, &refusal):
		return problem(statusOf[refusal.Reason], "Not now", refusal.Text)
	case errors.As(err, &fiberError) && fiberError.Code == http.StatusRequestEntityTooLarge:
		return problem(fiberError.Code, "Too large", "At most 12 MB can be sent at once. Take the picture smaller.")
	case errors.As(err, &fiberError) && fiberError.Code < 500:
		return problem(fiberError.Code, http.StatusText(fiberError.Code), "")
	case a.IsLost(err):
		a.Log.Warn("database lost", "request_id", requestid.FromContext(c), "error", err.Error())
		return problem(http.StatusServiceUnavailable, "The database cannot be reached", "Nothing was written. Try again in a moment; what you typed is still here.")
	}
	a.Log.Error("request failed", "request_id", requestid.FromContext(c), "method", c.Method(), "path", c.Path(), "error", err.Error())
	return problem(http.StatusInternalServerError, "This should not have happened", "It was written to the log under the number below.")
}
