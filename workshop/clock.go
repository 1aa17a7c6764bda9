package workshop

import "time"

// Moment says a time the one way in which screens, prints and the log say it,
// in the shop's time zone: 2026-11-26 11:36.
func Moment(t time.Time, zone *time.Location) string {
	if zone == nil {
		zone = time.UTC
	}
	return t.In(zone).Format("2006-01-02 15:04")
}
