package paper

import (
	"strings"

	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

func summarize(s *record.State) record.Summary {
	sum := record.Summary{Agreed: []string{}, Found: []string{}, Fitted: []string{}, Results: []string{},
		Open: []string{}}
	for _, step := range s.Plan.Steps {
		if step.Rules.Sums != nil {
			step.Rules.Sums(s, step, &sum)
		}
	}
	for _, line := range []string{
		withLabel("Measured: ", sum.Measured), withLabel("Tightened to its last pass: ", sum.Tightened), sum.SayProof(),
	} {
		if line != "" {
			sum.Results = append(sum.Results, line)
		}
	}
	for _, p := range record.Points(s) {
		says := say.Of(p.Title, p.Says)
		if strings.Contains(strings.ToLower(p.Says), strings.ToLower(p.Title)) {
			says = say.Raise(p.Says)
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

func withLabel(label string, said []string) string {
	if len(said) == 0 {
		return ""
	}
	return label + strings.Join(said, "; ")
}
