package shop

import (
	"cmp"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"handwerk/core/decision"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/text"
	"handwerk/workshop/say"
)

// Shop is what a workshop says of itself: its name on every paper, the units it
// reads in first, what an hour costs, the zone of its clock, its paper.
type Shop struct {
	Name       string          `json:"name"`
	Units      quantity.System `json:"units" enum:"metric,inch"`
	Currency   string          `json:"currency"` // three letters, ISO 4217
	HourlyRate quantity.Money  `json:"hourly_rate"`
	Zone       string          `json:"zone"` // IANA name
	Paper      string          `json:"paper" enum:"A4,Letter"`
	Address    string          `json:"address,omitempty"` // on paper below the name: street, place, telephone
	Foot       string          `json:"foot,omitempty"`    // words at the foot of the printed record
	// OpenDays are the days of the week somebody works, mon to sun; none said:
	// Monday to Friday. DaysOff are single days nobody does.
	OpenDays []string `json:"open_days,omitempty"`
	DaysOff  []string `json:"days_off,omitempty"`
	// IdleMinutes is the rest after which the bench's tablets ask who stands there; 0: ten.
	IdleMinutes quantity.Count `json:"idle_minutes,omitempty"`
	Backups     string         `json:"backups,omitempty"` // directory on the server for a backup every night; empty: none
}

// Idle is the rest after which a tablet at the bench asks who stands there.
func (s Shop) Idle() int { return int(cmp.Or(s.IdleMinutes, 10)) }

// BackupRun is one backup that ran by itself.
type BackupRun struct {
	At    time.Time `json:"at"`
	File  string    `json:"file"`
	Error string    `json:"error,omitempty"` // why there is none
}

// BackupsLate is how old the last good backup may be before everybody is told.
const BackupsLate = 50 * time.Hour

// BackupFault says in words what is wrong with the nightly backups: good is the
// last that succeeded, last the last that was tried; nil where none was.
func (s Shop) BackupFault(good, last *BackupRun, now time.Time) string {
	switch {
	case s.Backups == "":
		return ""
	case last != nil && last.Error != "":
		return "Last night's backup failed: " + last.Error
	case good != nil && now.Sub(good.At) > BackupsLate:
		return "No backup since " + good.At.Format(time.DateOnly) + "."
	}
	return ""
}

// ErrFirstCode: the code of a first run is wrong, used or too old, or somebody
// works here already.
var ErrFirstCode = errors.New("this code is not valid for this workshop")

// weekdays in the order of a week.
var weekdays = []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}

// mostDaysOff a shop may say.
const mostDaysOff = 400

func (s Shop) checkDays(faults *input.Fields, field func(string) string) {
	for i, day := range s.OpenDays {
		if !slices.Contains(weekdays, day) || slices.Index(s.OpenDays, day) != i {
			faults.Add(field("open_days"), strings.Join(weekdays, ", "), "%q is no day of the week, or is listed twice",
				day)
		}
	}
	if len(s.DaysOff) > mostDaysOff {
		faults.Add(field("days_off"), "up to 400 days", "%d days", len(s.DaysOff))
	}
	for _, day := range s.DaysOff {
		if !say.IsDay(day) {
			faults.Add(field("days_off"), "dates like 2026-12-25", "%q is not a date", day)
		}
	}
}

// papers that are printed on.
var papers = []string{"A4", "Letter"}

// Check refuses what no workshop could work by.
func (s Shop) Check(at string) input.Fields {
	var faults input.Fields
	field := func(name string) string { return input.Join(at, name) }
	if n := text.Length(strings.TrimSpace(s.Name)); n == 0 || n > 80 {
		faults.Add(field("name"), "1 to 80 characters", "missing or too long")
	}
	if s.Units != quantity.Metric && s.Units != quantity.InchFamily {
		faults.Add(field("units"), "metric, inch", "%q is not a unit family", s.Units)
	}
	letters := func(r rune) bool { return r < 'A' || r > 'Z' }
	if len(s.Currency) != 3 || strings.ContainsFunc(s.Currency, letters) {
		faults.Add(field("currency"), "three capital letters, like EUR", "%q is not a currency", s.Currency)
	}
	if s.HourlyRate < 0 || s.HourlyRate > quantity.MoneyOf(100_000) {
		faults.Add(field("hourly_rate"), "0 to 100000", "%s is not an hourly rate", s.HourlyRate)
	}
	if _, err := time.LoadLocation(s.Zone); err != nil || s.Zone == "" || s.Zone == "Local" {
		faults.Add(field("zone"), "a name like Europe/Lisbon", "%q is no time zone", s.Zone)
	}
	if s.Paper != papers[0] && s.Paper != papers[1] {
		faults.Add(field("paper"), strings.Join(papers, ", "), "%q is not a paper size", s.Paper)
	}
	for _, x := range []struct {
		name, said string
		most       int
	}{{"address", s.Address, 200}, {"foot", s.Foot, 400}} {
		if text.Length(x.said) > x.most || text.Bad(x.said) != "" {
			faults.Add(
				field(x.name),
				fmt.Sprintf("up to %d characters", x.most),
				"too long, or with signs that do not print",
			)
		}
	}
	s.checkDays(&faults, field)
	s.checkHouse(&faults, field)
	return faults
}

// checkHouse refuses rests and places that cannot be.
func (s Shop) checkHouse(faults *input.Fields, field func(string) string) {
	if s.IdleMinutes != 0 && (s.IdleMinutes < 1 || s.IdleMinutes > 240) {
		faults.Add(field("idle_minutes"), "1 to 240 minutes (empty means 10)", "%d is not possible", s.IdleMinutes)
	}
	if s.Backups != "" && (!filepath.IsAbs(s.Backups) || len(s.Backups) > 400 || text.Bad(s.Backups) != "") {
		faults.Add(field("backups"), "a full folder path on the server, like /mnt/backup", "%q is not a full path",
			s.Backups)
	}
}

// Calendar is when the shop works, from a day on.
func (s Shop) Calendar(from string) decision.Calendar {
	return decision.Calendar{From: from, Open: s.OpenDays, Off: s.DaysOff}
}

// OpenDay is the day itself, or the next on which somebody is there.
func (s Shop) OpenDay(day string) string {
	open := s.OpenDays
	if len(open) == 0 {
		open = weekdays[:5]
	}
	for range 400 {
		t, _ := time.Parse(time.DateOnly, day) // made by dayAfter
		if slices.Contains(open, strings.ToLower(t.Format("Mon"))) && !slices.Contains(s.DaysOff, day) {
			break
		}
		day = say.DayAfter(day, 1)
	}
	return day
}
