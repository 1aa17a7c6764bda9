package workshop

import (
	"encoding/json"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/decision"
	"handwerk/core/input"
	"handwerk/core/text"
)

// The ways to go are weighed as the spec sheet has them. For the unit on the
// bench somebody may know better: other ranges, or a way of one's own. That is
// an entry, laid over the sheet for this rebuild alone.

// waysPath is where the ways stand on a sheet.
const waysPath = "ways"

// acceptWays takes all ways as they are to be weighed; those of the sheet stay,
// whatever their ranges.
func (p *proposal) acceptWays() error {
	p.draft.Item = Place{}
	if !p.step.agrees() {
		return input.At("act", "ways, where ways are weighed", "none are weighed here")
	}
	if len(p.draft.Figure) == 0 || len(p.draft.Figure) > maxFigure {
		return input.At("figure", "the ways with their ranges, up to 20 kB", "missing or too long")
	}
	if problem := text.Bad(string(p.draft.Figure)); problem != "" {
		return input.At("figure", text.Accepted, "%s", problem)
	}
	var said []decision.Option
	if err := input.Decode(p.draft.Figure, &said); err != nil {
		return input.Below("figure", err)
	}
	return p.waysFit(said)
}

// waysFit: they can be weighed, are told apart, and none is left out.
func (p *proposal) waysFit(said []decision.Option) error {
	var faults input.Fields
	draws := 100 // to hear its faults, not its answer
	if _, err := decision.Decide(decision.In{Options: said, Draws: &draws}); err != nil {
		for _, f := range input.Below("", err) {
			faults.Add("figure"+strings.TrimPrefix(f.Path, "options"), f.Accepted, "%s", f.Problem)
		}
	}
	for i, w := range said {
		oneLine(&faults, input.Index("figure", i)+".says", w.Says, 1, mostSaid)
		twice := slices.ContainsFunc(said[:i], func(o decision.Option) bool { return o.ID == w.ID })
		if !book.IsID(w.ID) || twice {
			faults.Add(
				input.Index("figure", i)+".id", "a name of its own, of small letters, digits and dashes",
				"%q is none, or another way has it", w.ID,
			)
		}
	}
	for _, w := range p.state.on.sheet.Ways {
		if !slices.ContainsFunc(said, func(o decision.Option) bool { return o.ID == w.ID }) {
			faults.Add("figure", "every way that is weighed, and more", "%s is left out", w.Says)
		}
	}
	return faults.Err()
}

// choices are those of the step, and the ways that were put beside them.
func (s *State) choices(step *Step) []book.Choice {
	if step.Offers != "" {
		return append(s.offered(step), step.Choices...)
	}
	if !step.agrees() {
		return step.Choices
	}
	list := slices.Clone(step.Choices)
	for _, w := range s.on.sheet.Ways {
		if !slices.ContainsFunc(list, func(c book.Choice) bool { return c.ID == w.ID }) {
			list = append(list, book.Choice{ID: w.ID, Text: w.Says})
		}
	}
	return list
}

// offered are the rows of the spec sheet a step chooses among; a name is its id.
func (s *State) offered(step *Step) (list []book.Choice) {
	var rows []struct {
		Name string `json:"name"`
	}
	_ = json.Unmarshal(s.on.figures[step.Offers], &rows) // none are none
	for _, row := range rows {
		known := slices.ContainsFunc(list, func(c book.Choice) bool { return c.ID == row.Name })
		if row.Name != "" && row.Name != book.OtherCause && !known {
			list = append(list, book.Choice{ID: row.Name, Text: raised(row.Name)})
		}
	}
	return list
}

// waysSaidAfter tells whether the ways were said otherwise since.
func (s *State) waysSaidAfter(seq int) bool {
	for i := len(s.entries) - 1; i >= 0 && s.entries[i].Seq > seq; i-- {
		if s.entries[i].Act == ActWays && s.by[i] == 0 {
			return true
		}
	}
	return false
}

func waysWords(b Body) string {
	var said []decision.Option
	_ = json.Unmarshal(b.Figure, &said) // was read when it was taken
	names := make([]string, len(said))
	for i, w := range said {
		names[i] = w.Says
	}
	return withReason("weighed for this unit: "+strings.Join(names, ", "), b)
}
