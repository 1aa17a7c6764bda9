package decision

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

func exactly(v quantity.Number) Range { return Range{Low: v, High: v} }

// Counted on a paper calendar: 2026-11-30 is a Monday (ISO 8601, as any printed calendar has it).
func TestWorkWaitsForDaysOfWork(t *testing.T) {
	t.Parallel()
	var none input.Checks
	w := (&Calendar{From: "2026-11-30", Off: []string{"2026-12-01"}}).read(&none)
	require.NoError(t, none.Err())
	for _, c := range []struct{ start, work, done float64 }{
		{0, 0.5, 0.5}, // Monday noon
		{0, 1, 1},     // Monday evening
		{0, 1.5, 2.5}, // Tuesday is off: Wednesday noon
		{0, 4, 5},     // Monday, Wednesday to Friday
		{0, 4.5, 7.5}, // the Monday after
		{5, 1, 8},     // what came on a Saturday is done on Monday
		{3.5, 0, 3.5}, // nothing to do
		{10.75, 1, 11.75},
	} {
		assert.InDelta(t, c.done, w.after(c.start, c.work), 1e-9, "%v", c)
	}
	assert.InDelta(t, 4.5, (*workDays)(nil).after(0, 4.5), 1e-9, "without a calendar every day is one")
}

// Held against Go's own calendar, which shares no code with it.
func TestDaysAreCountedAsTheCalendarHasThem(t *testing.T) {
	t.Parallel()
	epoch := time.Date(1970, 1, 1, 0, 0, 0, 0, time.UTC)
	for n := 0; n < 83_000; n += 13 {
		day := epoch.AddDate(0, 0, n)
		got, ok := dayNumber(day.Format(time.DateOnly))
		require.True(t, ok)
		require.Equal(t, n, got, day)
		w := &workDays{open: [7]bool{time.Sunday: true}, off: map[int]bool{}}
		require.Equal(t, day.Weekday() == time.Sunday, w.worked(n))
	}
	for _, no := range []string{"", "2026-02-29", "2026-13-01", "26-11-30", "2026-11-31", "2026/11/30", "1969-12-31"} {
		_, ok := dayNumber(no)
		assert.False(t, ok, no)
	}
}

// 26.7 hours promised before, on a Monday at 6 hours a day, and a day's work of
// one's own: four days and a half before it begins on Friday noon, the rest on
// Monday. The waiting is over long before.
func TestWhatIsPromisedBeforeHasItsSpread(t *testing.T) {
	t.Parallel()
	in := In{
		Options: []Option{{ID: "a", Says: "a", Hours: exactly(6), Waiting: exactly(2)}},
		AheadOf: []Range{exactly(20), exactly(6.7)}, Calendar: &Calendar{From: "2026-11-30"},
	}
	out, err := Decide(in)
	require.NoError(t, err)
	assert.InDelta(t, 7.45, out.Options[0].DaysP80, 1e-6)
	likely := quantity.Number(20)
	in.AheadOf[0] = Range{Low: 14, Likely: &likely, High: 38}
	wide, err := Decide(in)
	require.NoError(t, err)
	assert.Greater(t, wide.Options[0].DaysP80, wide.Options[0].Days+0.5, "eight of ten are later than half of them")
	in.Calendar.Open = []string{"mon", "never"}
	_, err = Decide(in)
	assert.ErrorContains(t, err, "calendar.open")
}

// Work begins when the waiting is over, on days of work only; counted by hand.
func TestUntil(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		calendar Calendar
		waiting  int
		hours    float64
		want     int
	}{
		"two days from Monday":                {Calendar{From: "2026-11-30"}, 0, 12, 2},
		"parts on Friday, a day over Sunday":  {Calendar{From: "2026-11-30"}, 4, 12, 8},
		"a day off between":                   {Calendar{From: "2026-11-30", Off: []string{"2026-12-01"}}, 0, 12, 3},
		"nothing to do is done when it waits": {Calendar{From: "2026-11-30"}, 3, 0, 3},
	} {
		t.Run(name, func(t *testing.T) {
			got, err := c.calendar.Until(c.waiting, c.hours)
			require.NoError(t, err)
			assert.Equal(t, c.want, got)
		})
	}
	_, err := (&Calendar{From: "soon"}).Until(0, 1)
	require.ErrorContains(t, err, "calendar.from")
}
