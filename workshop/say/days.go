package say

import (
	"time"
)

// DayOf is the day of a time by the shop's clock.
func DayOf(at time.Time, zone *time.Location) string {
	if zone == nil {
		zone = time.UTC
	}
	return at.In(zone).Format(time.DateOnly)
}

// DayAfter is the day so many after one.
func DayAfter(day string, n int) string {
	t, _ := time.Parse(time.DateOnly, day) // made by dayOf
	return t.AddDate(0, 0, n).Format(time.DateOnly)
}

// DaysBetween counts days from one to another; 0 where one of them is none.
func DaysBetween(from, to string) int {
	a, err := time.Parse(time.DateOnly, from)
	b, err2 := time.Parse(time.DateOnly, to)
	if err != nil || err2 != nil {
		return 0
	}
	return int(b.Sub(a).Hours() / 24)
}

// DayWords says a day with its weekday: Fri 2026-11-27.
func DayWords(day string) string {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return day
	}
	return t.Format("Mon " + time.DateOnly)
}

// IsDay tells whether something can be promised for it.
func IsDay(s string) bool {
	day, err := time.Parse(time.DateOnly, s)
	return err == nil && day.Year() >= 2000 && day.Year() < 2200
}
