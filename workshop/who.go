package workshop

// role: readers look on; some steps belong to the lead.
func (p *proposal) role() error {
	if p.by.Role != Mechanic && p.by.Role != Lead {
		return refuse(Forbidden, ReadersLook)
	}
	if p.step.Role == string(Lead) && p.by.Role != Lead && !ofTheRebuild(p.draft.Act) {
		return refuse(Forbidden, leadOnly, p.step.Title)
	}
	if p.ledger.Stale && p.signs() {
		return refuse(Unproved, sayAgain, p.step.Title)
	}
	return nil
}

// signs tells that a lead puts his name to the whole, or takes it back.
func (p *proposal) signs() bool {
	return p.step.Role == string(Lead) && (p.draft.Act == ActDecision || p.draft.Act == ActStrike)
}
