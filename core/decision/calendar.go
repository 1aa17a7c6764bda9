package decision

import (
	"math"
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
)

// Calendar says on which days a shop works. Waiting passes on every day, work
// only on these.
type Calendar struct {
	From string   `json:"from"`           // the first day counted from, as 2026-11-30
	Open []string `json:"open,omitempty"` // mon to sun; default Monday to Friday
	Off  []string `json:"off,omitempty"`  // single days nobody works
}

var weekdays = []string{"sun", "mon", "tue", "wed", "thu", "fri", "sat"}

// usualOpen days of a workshop. Common practice.
var usualOpen = []string{"mon", "tue", "wed", "thu", "fri"}

const mostOff = 400

// workDays is a calendar ready to count with; without one every day is worked.
type workDays struct {
	from time.Time
	open [7]bool
	off  map[string]bool
}

func (c *Calendar) read(checks *input.Checks) *workDays {
	if c == nil {
		return nil
	}
	from, err := time.Parse(time.DateOnly, c.From)
	if err != nil {
		checks.Add("calendar.from", "a day, as 2026-11-30", "%q is none", c.From)
	}
	w := &workDays{from: from, off: map[string]bool{}}
	open := c.Open
	if len(open) == 0 {
		open = usualOpen
	}
	for i, day := range open {
		n := slices.Index(weekdays, day)
		if n < 0 {
			checks.Add(input.Index("calendar.open", i), strings.Join(weekdays, ", "), "%q is no day of the week", day)
			continue
		}
		w.open[n] = true
	}
	if len(c.Off) > mostOff {
		checks.Add("calendar.off", "up to 400 days", "%d days", len(c.Off))
	}
	for i, day := range c.Off[:min(len(c.Off), mostOff)] {
		if _, err := time.Parse(time.DateOnly, day); err != nil {
			checks.Add(input.Index("calendar.off", i), "a day, as 2026-12-25", "%q is none", day)
		}
		w.off[day] = true
	}
	return w
}

// worked tells whether somebody works on a day, counted from the first.
func (w *workDays) worked(day int) bool {
	at := w.from.AddDate(0, 0, day)
	return w.open[at.Weekday()] && !w.off[at.Format(time.DateOnly)]
}

// farthest bounds the walk through a calendar, in days.
const farthest = 20_000

// after is when so many days of work are done that begin at a time, both counted
// in calendar days from the first: 4.5 is the middle of the fifth.
func (w *workDays) after(start, work float64) float64 {
	if w == nil {
		return start + work
	}
	if work <= 0 {
		return start
	}
	for day := int(math.Floor(start)); day < farthest; day++ {
		if !w.worked(day) {
			continue
		}
		begin := math.Max(start, float64(day))
		free := float64(day+1) - begin
		if work <= free {
			return begin + work
		}
		work -= free
	}
	return farthest
}
