package httpapi

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
	one := h.Subscribe(boardTopic, "one")
	assert.Zero(t, h.pause(), "a few screens hear at once")
	for i := range 400 {
		h.Subscribe(boardTopic, fmt.Sprint("session ", i))
	}
	longest := time.Duration(0)
	for range 200 {
		longest = max(longest, h.pause())
	}
	assert.Positive(t, longest)
	assert.Less(t, longest, 401*perScreen)

	for seq := range 5 {
		h.Tell("a", Event{Seq: seq + 1, Step: "bolts"})
	}
	h.Tell("b", Event{Seq: 9, Step: "fluid"})
	news, more := one.gather(<-one.Events, 50*time.Millisecond)
	assert.True(t, more)
	assert.Equal(t, []Event{{Rebuild: "a", Seq: 5, Step: "bolts"}, {Rebuild: "b", Seq: 9, Step: "fluid"}}, news)

	h.Tell("a", Event{Seq: 6, Step: "bolts"})
	h.Close()
	_, more = one.gather(<-one.Events, time.Minute)
	assert.False(t, more, "an ended stream does not wait")
}
