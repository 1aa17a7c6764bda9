// Package news passes on to the open screens of this process what was entered.
package news

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"sync"
	"time"
)

// Event tells an open screen that its rebuild has a new entry. Without a
// sequence number it means: something may have been missed, read again.
type Event struct {
	Rebuild string `json:"rebuild,omitempty"`
	Seq     int    `json:"seq"`
	Step    string `json:"step"`
}

// Hub passes events on to the open screens of this process.
type Hub struct {
	mu      sync.Mutex
	screens map[*Screen]bool
	perUser map[string]int // screens of a session
	boot    string         // this hub, so that a count of another is none of ours
	told    int            // events so far
	closed  bool
}

// Screen is one open stream: what it watches, and whose session it belongs to.
type Screen struct {
	Events  <-chan Event // closed when the session ended, or we stop
	events  chan Event
	topic   string
	session string
	hub     *Hub
}

// Board hears of every rebuild.
const Board = "board"

// screensPerSession bounds what one browser may hold open.
const screensPerSession = 32

// NewHub makes an empty hub.
func NewHub() *Hub {
	return &Hub{screens: map[*Screen]bool{}, perUser: map[string]int{}, boot: fmt.Sprintf("%x", rand.Uint32())}
}

// Stands says how far news have been told: what was read while it says the same as
// when a stream opens has not been overtaken in between.
func (h *Hub) Stands() string {
	h.mu.Lock()
	defer h.mu.Unlock()
	return fmt.Sprintf("%s-%d", h.boot, h.told)
}

// Tell passes an event to the screens of a rebuild; to all with an empty id.
// A screen too slow to take it is told to read again when it can.
func (h *Hub) Tell(rebuild string, e Event) {
	e.Rebuild = rebuild
	h.mu.Lock()
	defer h.mu.Unlock()
	h.told++
	for s := range h.screens {
		if rebuild != "" && s.topic != rebuild && s.topic != Board {
			continue
		}
		select {
		case s.events <- e:
		default: // its queue is full of events that say the same
		}
	}
}

// perScreen is how much longer news may be gathered for each screen that is open: two
// thousand boards hear within half a second, a dozen at once.
const perScreen = 250 * time.Microsecond

// Pause spreads the telling over the screens, so that one entry does not wake them
// all in the same moment, before the hand that wrote it has its answer.
func (h *Hub) Pause() time.Duration {
	h.mu.Lock()
	defer h.mu.Unlock()
	most := time.Duration(len(h.screens)) * perScreen
	if most < 20*time.Millisecond {
		return 0
	}
	return rand.N(most)
}

// Gather waits for what else comes in the pause and gives the latest of each
// rebuild; false when the stream ends.
func (s *Screen) Gather(first Event, pause time.Duration) ([]Event, bool) {
	news := []Event{first}
	if pause == 0 {
		return news, true
	}
	over := time.After(pause)
	for {
		select {
		case e, ok := <-s.Events:
			if !ok {
				return news, false
			}
			news = slices.DeleteFunc(news, func(x Event) bool { return x.Rebuild == e.Rebuild && x.Step == e.Step })
			news = append(news, e)
		case <-over:
			return news, true
		}
	}
}

// EndSession closes the screens of a session.
func (h *Hub) EndSession(session string) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for s := range h.screens {
		if s.session == session {
			h.drop(s)
		}
	}
}

// Subscribe gives a session a screen, until it leaves; nil when it has too many.
func (h *Hub) Subscribe(topic, session string) *Screen {
	events := make(chan Event, 16)
	s := &Screen{events, events, topic, session, h}
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.perUser[session] >= screensPerSession {
		return nil
	}
	if h.closed {
		close(events)
		return s
	}
	h.screens[s] = true
	h.perUser[session]++
	return s
}

// Leave ends a screen's events.
func (s *Screen) Leave() {
	s.hub.mu.Lock()
	defer s.hub.mu.Unlock()
	s.hub.drop(s)
}

// drop closes a screen, once.
func (h *Hub) drop(s *Screen) {
	if !h.screens[s] {
		return
	}
	delete(h.screens, s)
	if h.perUser[s.session]--; h.perUser[s.session] == 0 {
		delete(h.perUser, s.session)
	}
	close(s.events)
}

// Close ends all streams, so that the server can stop.
func (h *Hub) Close() {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.closed = true
	for s := range h.screens {
		h.drop(s)
	}
}
