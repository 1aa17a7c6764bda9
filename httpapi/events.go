package httpapi

import (
	"bufio"
	"fmt"
	"io"
	"net/http"
	"time"

	"github.com/gofiber/fiber/v3"
)

const (
	heartbeat  = 15 * time.Second
	streamTime = 20 * time.Second // for one event to reach the browser
)

// eventStream is what goes to one open screen.
type eventStream struct {
	first string
	// next writes what comes next: whether the stream goes on, and whether it was
	// only the heart that beat.
	next  func(w io.Writer, beat <-chan time.Time) (goesOn, beaten bool)
	leave func()
}

// sendEvents writes server-sent events until the browser leaves, its session ends
// or we stop.
func (a *api) sendEvents(c call, s eventStream) error {
	c.Set(fiber.HeaderContentType, "text/event-stream")
	c.Set("X-Accel-Buffering", "no")
	session, conn := c.session, c.RequestCtx().Conn()
	return c.SendStreamWriter(func(w *bufio.Writer) {
		defer s.leave()
		beat := time.NewTicker(heartbeat)
		defer beat.Stop()
		_, _ = fmt.Fprint(w, s.first)
		for conn.SetWriteDeadline(time.Now().Add(streamTime+heartbeat)) == nil && w.Flush() == nil {
			goesOn, beaten := s.next(w, beat.C)
			if beaten {
				ctx, cancel := anew(requestTime)
				goesOn = a.holds(ctx, session)
				cancel()
				_, _ = fmt.Fprint(w, ": still here\n\n")
			}
			if !goesOn {
				return
			}
		}
	})
}

func tooManyScreens() error {
	return problem(http.StatusTooManyRequests, "Too many screens",
		"Close some of the pages that are open in this browser.")
}
