package workshop

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"handwerk/book"
	"handwerk/core/input"
)

// ChainLink is a part in the chain from what let go first to what that took with it.
type ChainLink struct {
	Part string `json:"part,omitempty"` // its line: strip.washer; empty for what no stack has
	Name string `json:"name"`
	How  string `json:"how,omitempty"` // broke, ran dry, took the next with it
}

const mostLinks = 12

// linked checks a chain: its parts are of this unit, each once.
func (p *proposal) linked() error {
	if len(p.draft.Chain) == 0 {
		return nil
	}
	var faults input.Fields
	if p.step.FromBook != book.FromCauses {
		faults.Add("chain", "nothing: it belongs to the root cause", "no chain is told here")
	}
	if len(p.draft.Chain) > mostLinks {
		faults.Add("chain", fmt.Sprintf("up to %d parts", mostLinks), "%d of them", len(p.draft.Chain))
	}
	known := p.state.chainParts(p.step)
	seen := map[string]bool{}
	for i := range p.draft.Chain {
		l, at := &p.draft.Chain[i], input.Index("chain", i)
		l.Name, l.How = strings.TrimSpace(l.Name), strings.TrimSpace(l.How)
		if l.Name == "" || utf8.RuneCountInString(l.Name) > mostSaid || utf8.RuneCountInString(l.How) > mostSaid {
			faults.Add(at+".name", fmt.Sprintf("a text, up to %d characters", mostSaid), "missing or too long")
		}
		if l.Part == "" {
			continue
		}
		if !slices.ContainsFunc(known, func(c ChainPart) bool { return c.Part == l.Part }) || seen[l.Part] {
			faults.Add(at+".part", "a part of this unit, once", "%q is none, or stands twice", l.Part)
		}
		seen[l.Part] = true
	}
	return faults.Err()
}

// ChainPart is a part that a chain may name.
type ChainPart struct {
	Part    string `json:"part"`
	Name    string `json:"name"`
	Shape   string `json:"shape,omitempty"`
	Verdict string `json:"verdict,omitempty"`
}

// chainParts are the parts that came off before a step, the damaged ones first.
func (s *State) chainParts(step *Step) []ChainPart {
	list := []ChainPart{}
	for _, removal := range removals(s.plan.Steps[:step.at]) {
		for _, p := range s.Stack(removal) {
			list = append(list, ChainPart{removal.ID + "." + p.ID, p.Name, p.Shape, p.Verdict})
		}
	}
	hurt := func(c ChainPart) int {
		if c.Verdict == "" || c.Verdict == partReuse {
			return 1
		}
		return 0
	}
	slices.SortStableFunc(list, func(a, b ChainPart) int { return hurt(a) - hurt(b) })
	return list
}

// chainWords says a chain: first the washer (left out), which took the sleeve.
func chainWords(chain []ChainLink) string {
	var words []string
	for i, l := range chain {
		said := l.Name
		if l.How != "" {
			said += " (" + l.How + ")"
		}
		switch i {
		case 0:
			said = "first " + said
		case 1:
			said = "which took " + said
		}
		words = append(words, said)
	}
	return strings.Join(words, ", ")
}
