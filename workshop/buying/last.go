package buying

import (
	"fmt"

	"handwerk/core/input"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// When the last of the parts is here, and when what follows is done.

// PartsLast is when the last of it is here.
type PartsLast struct {
	Day      string  `json:"day,omitempty"`
	Hours    float64 `json:"hours,omitempty"` // of work after it; 0 where nobody knows
	Ready    string  `json:"ready,omitempty"` // that work is done
	Promised string  `json:"promised"`
	Late     int     `json:"late"` // days from the promised one to ready, below zero before it
	Awaited  int     `json:"awaited"`
	ToOrder  int     `json:"to_order"`
	Here     int     `json:"here"`
	Unknown  int     `json:"unknown"` // nobody knows when they come
	Says     string  `json:"says"`
}

// Last tells when the last of it is here: what is ordered on its day, what is
// not as if it were ordered today.
func (c *Purchase) Last(today, promised string, b Building) PartsLast {
	l := PartsLast{Promised: promised, Hours: b.hours}
	for _, p := range c.Stands() {
		day := p.Due
		switch {
		case p.IsAwaited():
			l.Awaited++
		case p.IsOpen():
			if l.ToOrder++; p.Lead != nil {
				day = say.DayAfter(today, int(*p.Lead))
			} else {
				day = ""
			}
		default:
			l.Here++
			continue
		}
		if day == "" {
			l.Unknown++
		}
		l.Day = max(l.Day, day)
	}
	if l.Day != "" {
		l.Ready = b.After(l.Day)
		l.Late = say.DaysBetween(promised, l.Ready)
	}
	l.Says = l.words()
	return l
}

// Building is the work that is left once the parts are here.
type Building struct {
	today string
	hours float64 // 0 where nobody knows
	shop  shop.Shop
}

// BuildingFor is the work left after a step, and when somebody is there to do it.
func BuildingFor(v record.Viewer, today string) (b Building, err error) {
	b = Building{today: today, hours: hoursAfter(v.State, v.Step)}
	if v.Ledger.Shop != nil {
		b.shop, err = v.Ledger.Shop()
	}
	return b, err
}

// After is the day that work is done when it begins on another.
func (b Building) After(day string) string {
	if b.hours == 0 {
		return day
	}
	calendar := b.shop.Calendar(b.today)
	days, err := calendar.Until(max(0, say.DaysBetween(b.today, day)), b.hours)
	if err != nil {
		return day // an archive's shop may say what is no day
	}
	return b.shop.OpenDay(say.DayAfter(b.today, days))
}

func (l PartsLast) words() string {
	switch {
	case l.Awaited+l.ToOrder == 0 && l.Here == 0:
		return "No parts needed."
	case l.Awaited+l.ToOrder == 0:
		return "All parts are here."
	case l.Day == "":
		return "No delivery dates yet."
	}
	words := "All parts here"
	if l.Unknown > 0 {
		words = "Parts with a date here"
	}
	words += " on " + say.DayWords(l.Day)
	if l.Hours > 0 {
		words += ", and " + input.Plain(l.Hours) + " h of work follow"
	}
	switch {
	case l.Late > 0:
		words += ": " + say.Several(l.Late, "day", "days") + " after the promised day"
	case l.Late < 0:
		words += ": " + say.Several(-l.Late, "day", "days") + " before the promised day"
	case l.Hours == 0:
		words += ": on the promised day, with the work still to do"
	default:
		words += ": on the promised day"
	}
	if l.Unknown > 0 {
		words += fmt.Sprintf("; %d more without a date", l.Unknown)
	}
	return words + "."
}
