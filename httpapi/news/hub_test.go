package news

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// News to many screens are gathered: each rebuild's step once, the latest.
func TestNewsToManyScreensAreGathered(t *testing.T) {
	t.Parallel()
	h := NewHub()
	one := h.Subscribe(Board, "one")
	assert.Zero(t, h.Pause(), "a few screens hear at once")
	for i := range 400 {
		h.Subscribe(Board, fmt.Sprint("session ", i))
	}
	longest := time.Duration(0)
	for range 200 {
		longest = max(longest, h.Pause())
	}
	assert.Positive(t, longest)
	assert.Less(t, longest, 401*perScreen)

	for seq := range 5 {
		h.Tell("a", Event{Seq: seq + 1, Step: "bolts"})
	}
	h.Tell("b", Event{Seq: 9, Step: "fluid"})
	news, more := one.Gather(<-one.Events, 50*time.Millisecond)
	assert.True(t, more)
	assert.Equal(t, []Event{{Rebuild: "a", Seq: 5, Step: "bolts"}, {Rebuild: "b", Seq: 9, Step: "fluid"}}, news)

	h.Tell("a", Event{Seq: 6, Step: "bolts"})
	h.Close()
	_, more = one.Gather(<-one.Events, time.Minute)
	assert.False(t, more, "an ended stream does not wait")
}

func TestHub(t *testing.T) {
	t.Parallel()
	h := NewHub()
	mine, board, other := h.Subscribe("a", "s1"), h.Subscribe(Board, "s1"), h.Subscribe("b", "s2")
	h.Tell("a", Event{Seq: 1})
	assert.Equal(t, 1, (<-mine.Events).Seq)
	assert.Equal(t, 1, (<-board.Events).Seq, "the board hears of every rebuild")
	assert.Empty(t, other.Events)
	h.Tell("", Event{})
	assert.Zero(t, (<-other.Events).Seq, "read again")
	<-mine.Events
	for i := range 100 { // a screen that does not read holds nobody up
		h.Tell("a", Event{Seq: i})
	}
	mine.Leave()
	mine.Leave() // leaving twice is leaving
	another := h.Subscribe("a", "s1")
	h.EndSession("s1")
	_, open := <-another.Events
	assert.False(t, open, "a screen ends with its session")
	var held []*Screen
	for range 40 {
		if s := h.Subscribe("a", "greedy"); s != nil {
			held = append(held, s)
		}
	}
	assert.Len(t, held, 32, "a browser holds so many and no more")
	h.Close()
	_, open = <-other.Events
	assert.False(t, open)
	_, open = <-h.Subscribe("a", "s3").Events
	assert.False(t, open, "nobody comes in after closing")
}
