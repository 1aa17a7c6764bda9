package decide

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

const mostLinks = 12

// checkChain checks a chain: its parts are of this unit, each once.
func checkChain(p *record.Attempt, said *acts.Decision) error {
	if len(said.Chain) == 0 {
		return nil
	}
	var faults input.Fields
	if p.Step.FromBook != book.FromCauses {
		faults.Add("chain", "nothing here", "a chain of failure belongs at the root cause step")
	}
	if len(said.Chain) > mostLinks {
		faults.Add("chain", fmt.Sprintf("up to %d parts", mostLinks), "%d of them", len(said.Chain))
	}
	known := chainParts(p.State, p.Step)
	seen := map[string]bool{}
	for i := range said.Chain {
		l, at := &said.Chain[i], input.Index("chain", i)
		l.Name, l.How = strings.TrimSpace(l.Name), strings.TrimSpace(l.How)
		if l.Name == "" || utf8.RuneCountInString(l.Name) > say.MostSaid ||
			utf8.RuneCountInString(l.How) > say.MostSaid {
			faults.Add(at+".name", fmt.Sprintf("a text, up to %d characters", say.MostSaid), "missing or too long")
		}
		if l.Part == "" {
			continue
		}
		if !slices.ContainsFunc(known, func(c ChainPart) bool { return c.Part == l.Part }) || seen[l.Part] {
			faults.Add(
				at+".part",
				"a part of this unit, once",
				"%q is not a part of this unit, or is listed twice",
				l.Part,
			)
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
func chainParts(s *record.State, step *record.Step) []ChainPart {
	list := []ChainPart{}
	for _, removal := range stack.Removals(s.Plan.Steps[:step.At]) {
		for _, p := range stack.Stack(s, removal) {
			list = append(list, ChainPart{removal.ID + "." + p.ID, p.Name, p.Shape, p.Verdict})
		}
	}
	hurt := func(c ChainPart) int {
		if c.Verdict == "" || c.Verdict == stack.PartReuse {
			return 1
		}
		return 0
	}
	slices.SortStableFunc(list, func(a, b ChainPart) int { return hurt(a) - hurt(b) })
	return list
}

// chainWords says a chain: first the washer (left out), which took the sleeve.
func chainWords(chain []acts.ChainLink) string {
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
			said = "which damaged " + said
		}
		words = append(words, said)
	}
	return strings.Join(words, ", ")
}
