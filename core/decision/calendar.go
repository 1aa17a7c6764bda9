package decision

import (
	"math"
	"slices"
	"strconv"
	"strings"

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
// Days are counted from 1970-01-01.
type workDays struct {
	from int
	open [7]bool
	off  map[int]bool
}

// dayNumber counts a day from 1970-01-01, a Thursday; ok is false for what is no
// day of the years 1970 to 2199. Source: the Gregorian calendar (ISO 8601).
func dayNumber(said string) (n int, ok bool) {
	parts := strings.Split(said, "-")
	if len(said) != len("2026-11-30") || len(parts) != 3 {
		return 0, false
	}
	year, err1 := strconv.Atoi(parts[0])
	month, err2 := strconv.Atoi(parts[1])
	day, err3 := strconv.Atoi(parts[2])
	if err1 != nil || err2 != nil || err3 != nil || year < 1970 || year > 2199 || month < 1 || month > 12 ||
		day < 1 || day > daysOf(year, month) {
		return 0, false
	}
	for y := 1970; y < year; y++ {
		n += 365 + daysOf(y, 2) - 28
	}
	for m := 1; m < month; m++ {
		n += daysOf(year, m)
	}
	return n + day - 1, true
}

func daysOf(year, month int) int {
	switch month {
	case 2:
		if year%4 == 0 && (year%100 != 0 || year%400 == 0) {
			return 29
		}
		return 28
	case 4, 6, 9, 11:
		return 30
	}
	return 31
}

func (c *Calendar) read(checks *input.Checks) *workDays {
	if c == nil {
		return nil
	}
	from, ok := dayNumber(c.From)
	if !ok {
		checks.Add("calendar.from", "a date like 2026-11-30", "%q is not a date", c.From)
	}
	w := &workDays{from: from, off: map[int]bool{}}
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
		n, ok := dayNumber(day)
		if !ok {
			checks.Add(input.Index("calendar.off", i), "a date like 2026-12-25", "%q is not a date", day)
		}
		w.off[n] = true
	}
	return w
}

// worked tells whether somebody works on a day, counted from the first.
func (w *workDays) worked(day int) bool {
	const thursday = 4
	n := w.from + day
	return w.open[(n+thursday)%7] && !w.off[n]
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

// Until tells on which day so much work is done that begins after some days of
// waiting: hours, at the usual hours a day; days counted from the first.
func (c *Calendar) Until(waiting int, hours float64) (days int, err error) {
	var checks input.Checks
	w := c.read(&checks)
	if err := checks.Err(); err != nil {
		return 0, err
	}
	return int(math.Ceil(w.after(float64(waiting), hours/hoursPerDay) - 1e-9)), nil
}
