package record

import (
	"handwerk/workshop/acts"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// role: readers look on; some steps belong to the lead.
func (p *Attempt) role() error {
	if p.by.Role != people.Mechanic && p.by.Role != people.Lead {
		return say.Refuse(say.Forbidden, say.ReadersLook)
	}
	if p.Step.Role == string(people.Lead) && p.by.Role != people.Lead && (p.act == nil || !p.act.Whole) {
		return say.Refuse(say.Forbidden, say.LeadOnly, p.Step.Title)
	}
	if p.Ledger.Stale && p.signs() {
		return say.Refuse(say.Unproved, say.SayAgain, p.Step.Title)
	}
	return nil
}

// signs tells that a lead puts his name to the whole, or takes it back.
func (p *Attempt) signs() bool {
	return p.Step.Role == string(people.Lead) && (p.Is(acts.Decision{}) || p.strikes())
}
