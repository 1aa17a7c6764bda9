package workshop

import (
	"fmt"
	"strings"
)

// Summary is what stands on the first page of a record: for who reads one page.
type Summary struct {
	Agreed  []string `json:"agreed"`  // the way that was decided, and the customer's yes
	Found   []string `json:"found"`   // the cause, and what was worn or missing
	Fitted  []string `json:"fitted"`  // what is new, which oil, which packs
	Results []string `json:"results"` // a line each of what was measured, tightened, proved
	Open    []string `json:"open"`    // what does not read well, with the reason it was left

	measured  []string `json:"-"` // a step each
	tightened []string `json:"-"`
	tried     int      `json:"-"` // points on the road
	bad       []string `json:"-"` // of them
}

func (sum *Summary) proved() string {
	switch {
	case sum.tried == 0:
		return ""
	case len(sum.bad) == 0:
		return fmt.Sprintf("Proved: %s, all as they should be", several(sum.tried, "point", "points"))
	}
	return fmt.Sprintf("Proved: %s, not as it should be: %s", several(sum.tried, "point", "points"), strings.Join(sum.bad, "; "))
}

func (s *State) summary() Summary {
	sum := Summary{Agreed: []string{}, Found: []string{}, Fitted: []string{}, Results: []string{}, Open: []string{}}
	for _, step := range s.plan.Steps {
		if step.kind.sums != nil {
			step.kind.sums(s, step, &sum)
		}
	}
	for _, line := range []string{
		labelled("Measured: ", sum.measured), labelled("Tightened to its last pass: ", sum.tightened), sum.proved(),
	} {
		if line != "" {
			sum.Results = append(sum.Results, line)
		}
	}
	for _, p := range s.points() {
		says := p.Title + ": " + p.Says
		if strings.Contains(strings.ToLower(p.Says), strings.ToLower(p.Title)) {
			says = raised(p.Says)
		}
		for _, why := range []string{p.Left, p.Answer} {
			if why != "" {
				says += " (" + why + ")"
			}
		}
		sum.Open = append(sum.Open, says)
	}
	return sum
}

func labelled(label string, said []string) string {
	if len(said) == 0 {
		return ""
	}
	return label + strings.Join(said, "; ")
}
