package record

import (
	"slices"
	"time"

	"handwerk/core/input"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// acceptPromised: another day is promised.
func (p *Attempt) acceptPromised() error {
	p.Draft.Item = Place{}
	var faults input.Fields
	if p.WantDay(&faults); p.Old == nil && p.Draft.Due == p.State.Promised {
		faults.Add("due", "another day than the one that is promised", "%s is promised already", p.Draft.Due)
	}
	return faults.Err()
}

// lastPromised is the day that was promised last.
func (s *State) lastPromised() string {
	for i := len(s.Entries) - 1; i >= 0; i-- {
		if e := s.Entries[i]; e.Act == ActPromised && s.Superseded[i] == 0 {
			if due := e.Said().Due; say.IsDay(due) {
				return due
			}
		}
	}
	return s.order.Promised
}

// mostAhead are the days that something may be promised ahead.
const MostAhead = 730

// dayAhead: something is promised for a day to come.
func (p *Attempt) WantDay(faults *input.Fields) {
	today := say.DayOf(p.Now, p.State.Zone)
	switch _, err := time.Parse(time.DateOnly, p.Draft.Due); {
	case err != nil:
		faults.Add("due", "a day like 2026-11-27", "%q is not a day", p.Draft.Due)
	case p.Draft.Due < today && p.Old == nil:
		faults.Add("due", "a day from today on", "%s is over", p.Draft.Due)
	case say.DaysBetween(today, p.Draft.Due) > MostAhead:
		faults.Add("due", "within two years", "%s is too far ahead", p.Draft.Due)
	}
}

// acceptTime: somebody says how long he was at a step; a lead may say it of others.
func (p *Attempt) acceptTime() error {
	if p.Draft.Item == (Place{}) {
		p.Draft.Item = ReadPlace(p.by.Login)
	}
	who := p.Draft.Item.String()
	known := slices.ContainsFunc(p.Ledger.Entries, func(e Entry) bool { return e.By.Login == who })
	switch {
	case who != p.by.Login && p.by.Role != people.Lead:
		return say.Refuse(say.Forbidden, say.OthersTime)
	case who != p.by.Login && !known:
		return input.At("item", "the login of somebody who worked here", "%q did not", who)
	case p.Draft.Minutes < 0 || p.Draft.Minutes > MostMinutes:
		return input.At("minutes", "0 to 1440", "%d minutes cannot be", p.Draft.Minutes)
	}
	return nil
}
