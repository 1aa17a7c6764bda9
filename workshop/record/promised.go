package record

import (
	"slices"
	"time"

	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// acceptPromised: another day is promised.
func acceptPromised(p *Attempt) error {
	due := Saying[acts.Promised](p).Due
	p.Draft.Item = Place{}
	var faults input.Fields
	if p.WantDay(&faults, due); p.Old == nil && due == p.State.Promised {
		faults.Add("due", "a day other than the promised one", "%s is promised already", due)
	}
	return faults.Err()
}

// lastPromised is the day that was promised last.
func lastPromised(s *State) string {
	for i := len(s.Entries) - 1; i >= 0; i-- {
		said, is := s.Entries[i].ReadAct().(*acts.Promised)
		if is && s.Superseded[i] == 0 && say.IsDay(said.Due) {
			return said.Due
		}
	}
	return s.order.Promised
}

// MostAhead are the days that something may be promised ahead.
const MostAhead = 730

// WantDay: something is promised for a day to come.
func (p *Attempt) WantDay(faults *input.Fields, due string) {
	today := say.DayOf(p.Now, p.State.Zone)
	switch _, err := time.Parse(time.DateOnly, due); {
	case err != nil:
		faults.Add("due", "a day like 2026-11-27", "%q is not a day", due)
	case due < today && p.Old == nil:
		faults.Add("due", "a day from today on", "%s has passed", due)
	case say.DaysBetween(today, due) > MostAhead:
		faults.Add("due", "within two years", "%s is too far ahead", due)
	}
}

// acceptTime: somebody says how long he was at a step; a lead may say it of others.
func acceptTime(p *Attempt) error {
	minutes := Saying[acts.Time](p).Minutes
	if p.Draft.Item == (Place{}) {
		p.Draft.Item = ReadPlace(p.by.Login)
	}
	who := p.Draft.Item.String()
	known := slices.ContainsFunc(p.Ledger.Entries, func(e Entry) bool { return e.By.Login == who })
	switch {
	case who != p.by.Login && p.by.Role != people.Lead:
		return say.Refuse(say.Forbidden, say.OthersTime)
	case who != p.by.Login && !known:
		return input.At("item", "the login of somebody who worked here", "%q never worked here", who)
	case minutes < 0 || minutes > say.MostMinutes:
		return input.At("minutes", "0 to 1440", "%d minutes is not possible", minutes)
	}
	return nil
}
