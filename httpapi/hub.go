package httpapi

import "sync"

// Event tells an open screen that its rebuild has a new entry. Without a
// sequence number it means: something may have been missed, read again.
type Event struct {
	Seq  int    `json:"seq"`
	Step string `json:"step"`
}

// Hub passes events on to the open screens of this process.
type Hub struct {
	mu      sync.Mutex
	screens map[string]map[chan Event]bool // rebuild -> screens
	closed  bool
}

// NewHub makes an empty hub.
func NewHub() *Hub { return &Hub{screens: map[string]map[chan Event]bool{}} }

// Tell passes an event to the screens of a rebuild; to all with an empty id.
// A screen too slow to take it is told to read again when it can.
func (h *Hub) Tell(rebuild string, e Event) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for id, screens := range h.screens {
		if rebuild != "" && id != rebuild && id != boardTopic {
			continue
		}
		for ch := range screens {
			select {
			case ch <- e:
			default: // its queue is full of events that say the same
			}
		}
	}
}

// boardTopic hears of every rebuild.
const boardTopic = "board"

// Subscribe gives a screen its events until cancel is called.
func (h *Hub) Subscribe(rebuild string) (events <-chan Event, cancel func()) {
	ch := make(chan Event, 16)
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.closed {
		close(ch)
		return ch, func() {}
	}
	if h.screens[rebuild] == nil {
		h.screens[rebuild] = map[chan Event]bool{}
	}
	h.screens[rebuild][ch] = true
	return ch, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		if h.screens[rebuild][ch] {
			delete(h.screens[rebuild], ch)
			if len(h.screens[rebuild]) == 0 {
				delete(h.screens, rebuild)
			}
			close(ch)
		}
	}
}

// Close ends all streams, so that the server can stop.
func (h *Hub) Close() {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.closed = true
	for id, screens := range h.screens {
		for ch := range screens {
			close(ch)
		}
		delete(h.screens, id)
	}
}
