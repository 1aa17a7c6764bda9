package gearing

import (
	"fmt"
	"strings"

	"handwerk/core/metrology"
	"handwerk/core/text"
)

// partWords are the parts as one would ask for them.
var partWords = map[string]string{
	"ring":          "synchroniser ring",
	"thrust_washer": "thrust washer",
	"fork_pad":      "fork pad",
	"detent_spring": "detent spring",
}

// say is the answer in a sentence or two.
func (in GearMatrixIn) say(out GearMatrixOut) string {
	var parts []string
	for _, a := range out.Asks {
		parts = append(parts, fmt.Sprintf("replace the %s of %s", partWords[a.Part], text.List(a.Gears)))
	}
	for _, c := range out.Cells {
		if c.Asks == "wrong_part" {
			parts = append(
				parts,
				fmt.Sprintf("the %s of %s is past its other limit: the wrong part", calledFigure(c.What), c.Gear),
			)
		}
	}
	said := strings.Join(parts, "; ")
	switch {
	case said != "":
	case out.Verdict == metrology.Undecided:
		c := out.Cells[0]
		said = fmt.Sprintf("undecided at %s: read the %s again with a finer gauge", c.Gear, calledFigure(c.What))
	case out.Verdict == metrology.In:
		said = "all that was measured is within its limits"
	default:
		said = "the spec sheet has no limit for what was measured"
	}
	if open := in.withoutUncertainty(); open != "" {
		said += "; judged as if the gauge were exact for " + open
	}
	return said
}

func calledFigure(what string) string {
	for _, f := range gearFigures {
		if f.what == what {
			return f.called
		}
	}
	return what
}

// withoutUncertainty names the measured figures whose uncertainty nobody gave.
func (in GearMatrixIn) withoutUncertainty() string {
	var open []string
	for _, f := range gearFigures {
		measured := false
		for _, g := range in.Gears {
			measured = measured || f.of(g.GearFigures).IsSaid()
		}
		if measured && !f.of(in.Uncertainty).IsSaid() {
			open = append(open, f.called)
		}
	}
	return text.List(open)
}
