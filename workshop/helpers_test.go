package workshop_test

import (
	"handwerk/workshop/record"
)

// statuses says where every step stands, for comparing states.
func statuses(s *record.State) map[string]string {
	all := map[string]string{}
	for _, step := range s.Plan.Steps {
		status, needs := s.Status(step)
		all[step.ID] = string(status) + " " + s.NeedWords(step, needs)
	}
	return all
}

// unfolded is the ledger as it comes from anywhere.
func unfolded(l record.Ledger) record.Ledger {
	return record.Ledger{Rebuild: l.Rebuild, Plan: l.Plan, Entries: l.Entries, Zone: l.Zone, Units: l.Units, Asks: l.Asks}
}
