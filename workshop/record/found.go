package record

import (
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/say"
)

// Found along the way: what somebody sees at the vehicle that nobody asked
// about, a window, a hose, a hole in the floor. It can be said at any step, and
// stands on what the customer takes home with what became of it.

// severities and settlements are the ways to say how grave it is, and what was
// done about it.
var (
	severities = []struct{ ID, Text string }{
		{"minor", "can wait"}, {"soon", "soon"}, {"unsafe", "not safe to drive"},
	}
	settlements = []struct{ ID, Text string }{
		{"done", "done now"}, {"advised", "customer advised"}, {"refused", "customer declined"},
	}
)

// FoundLine is something found along the way, for the customer.
type FoundLine struct {
	Says     string    `json:"says"`
	Severity string    `json:"severity" enum:"minor,soon,unsafe"`
	Settled  string    `json:"settled" enum:"done,advised,refused"`
	Words    string    `json:"words"` // how grave it is, and what became of it
	Step     string    `json:"step"`  // where it was said, by its title
	By       string    `json:"by"`
	At       time.Time `json:"at"`
	Photo    string    `json:"photo,omitempty"`
}

func acceptFound(p *Attempt) error {
	said := Saying[acts.Found](p)
	var faults input.Fields
	if strings.TrimSpace(said.Note) == "" {
		faults.Add("note", "what was found", "nothing was typed")
	}
	for _, one := range []struct {
		field, said string
		list        []struct{ ID, Text string }
	}{{"outcome", said.Outcome, severities}, {"settled", said.Settled, settlements}} {
		if !slices.ContainsFunc(one.list, func(x struct{ ID, Text string }) bool { return x.ID == one.said }) {
			faults.Add(one.field, say.ListOf(one.list, func(x struct{ ID, Text string }) string { return x.ID }),
				"%q is not one of the choices", one.said)
		}
	}
	p.Draft.Item = Place{} // there may be many at one step
	return faults.Err()
}

func wordOf(list []struct{ ID, Text string }, id string) string {
	return say.NameOf(list, id, func(x struct{ ID, Text string }) (string, string) { return x.ID, x.Text })
}

func foundWords(_ *State, _ *Step, e *Entry) string {
	return "found along the way, " + becameOf(As[acts.Found](e))
}

// Found lists what was found along the way, the gravest first.
func Finds(s *State) []FoundLine {
	list := []FoundLine{}
	for i, e := range s.Entries {
		b, is := e.ReadAct().(*acts.Found)
		if !is || s.Superseded[i] > 0 {
			continue
		}
		title := e.Step
		if step, ok := s.Plan.Step(e.Step); ok {
			title = step.Title
		}
		list = append(list, FoundLine{b.Note, b.Outcome, b.Settled, becameOf(b), title, e.By.Name, e.At, b.Photo})
	}
	slices.SortStableFunc(list, func(a, b FoundLine) int { return Graveness(b.Severity) - Graveness(a.Severity) })
	return list
}

// Graveness orders severities, the lightest first.
func Graveness(severity string) int {
	return slices.IndexFunc(severities, func(x struct{ ID, Text string }) bool { return x.ID == severity })
}

// becameOf says how grave a find is, and what became of it.
func becameOf(b *acts.Found) string {
	return wordOf(severities, b.Outcome) + ", " + wordOf(settlements, b.Settled)
}
